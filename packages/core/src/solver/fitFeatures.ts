import Joi from 'joi';
import { atLeastZero, calculation, TOLERANCE } from '../calculation/calculation';
import { line } from '../text/plainText';
import { type Cheapest, cheapestBy, fractional, type Order, ordersOf, toReach } from './knapsackBound';

/** Something an image may hold, what it takes there, and what it is worth to its user. */
export interface Feature {
  id: string;
  flash: number;
  ram: number;
  worth: number;
  /** All of these must be kept with it. */
  needs?: string[];
  /** None of these may be kept with it, nor it with them. */
  excludes?: string[];
  /** It is kept whatever it costs. */
  locked?: boolean;
}
interface Input {
  features: Feature[];
  flashFree: number;
  ramFree: number;
}
export interface Fitted {
  keep: string[];
  drop: string[];
  flash: number;
  ram: number;
  worth: number;
  optimal: true;
}
export interface Unfit {
  infeasible: true;
  because: string;
  shortFlash: number;
  shortRam: number;
}

const id = () => line(80);
const MOST = 400;

/**
 * Which features to keep in an image: the most worth that fits into flash and RAM, with all that the kept ones need and
 * nothing that they exclude. Ties go to less flash, then less RAM, then the lexicographically first sorted list. Flash,
 * RAM and worth are 0 or more, of any unit; up to 400 features. Proven best: branch and bound over keep and drop, bounded by
 * the fractional knapsack of flash, of RAM and of both together.
 */
export const fitFeatures = calculation<Input, Fitted | Unfit>(
  'fitFeatures',
  () =>
    Joi.object({
      features: Joi.array()
        .items(
          Joi.object({
            id: id(),
            flash: atLeastZero(),
            ram: atLeastZero(),
            worth: atLeastZero(),
            needs: Joi.array().items(id().optional()).optional(),
            excludes: Joi.array().items(id().optional()).optional(),
            locked: Joi.boolean().optional(),
          }),
        )
        .unique('id')
        .max(MOST)
        .custom((features: Feature[], helpers) => {
          const ids = new Set(features.map((feature) => feature.id));
          const stray = features.flatMap(({ needs = [], excludes = [] }) => [...needs, ...excludes]).find((named) => !ids.has(named)); // prettier-ignore
          return stray === undefined ? features : helpers.message({ custom: `{{#label}} has no feature "${stray}"` }); // prettier-ignore
        }),
      flashFree: atLeastZero(),
      ramFree: atLeastZero(),
    }),
  ({ features, flashFree, ramFree }) => new Search(features, flashFree, ramFree).run(),
);

const [OPEN, KEPT, DROPPED] = [0, 1, -1];

/** What a set of kept features comes to. */
interface Sum {
  worth: number;
  flash: number;
  ram: number;
}
interface Solution extends Sum {
  /** Places in the sorted list, rising. */
  kept: number[];
}

class Search {
  private readonly items: readonly Feature[];
  private readonly needs: readonly (readonly number[])[];
  private readonly neededBy: readonly (readonly number[])[];
  private readonly excluded: readonly (readonly number[])[];
  private readonly twins: readonly (readonly number[])[];
  private readonly orders: readonly Order[];
  private readonly cheapest: Readonly<Record<'flash' | 'ram', Cheapest>>;
  /** What worth and flash differ by at least, where all are whole numbers; else 0. */
  private readonly steps: { worth: number; flash: number };
  private readonly state: Int8Array;
  private readonly sum: Sum = { worth: 0, flash: 0, ram: 0 };
  private readonly trail: number[] = [];
  private best: Solution | undefined;

  constructor(
    features: readonly Feature[],
    private readonly flashFree: number,
    private readonly ramFree: number,
  ) {
    this.items = [...features].sort((a, b) => (a.id < b.id ? -1 : 1));
    const at = new Map(this.items.map((item, index) => [item.id, index]));
    const placesOf = (ids: readonly string[] = []) => [...new Set(ids.map((name) => at.get(name) ?? -1))];
    this.needs = this.items.map(({ needs }) => placesOf(needs));
    this.neededBy = reversed(this.needs);
    const excludes = this.items.map((item) => placesOf(item.excludes));
    const other = reversed(excludes);
    this.excluded = excludes.map((list, index) => [...new Set([...list, ...(other[index] ?? [])])]);
    this.twins = this.twinsOf();
    this.orders = ordersOf(this.items, flashFree, ramFree);
    this.cheapest = { flash: cheapestBy(this.items, 'flash'), ram: cheapestBy(this.items, 'ram') };
    this.steps = { worth: stepOf(this.items.map(({ worth }) => worth)), flash: stepOf(this.items.map(({ flash }) => flash)) }; // prettier-ignore
    this.state = new Int8Array(this.items.length);
  }

  run(): Fitted | Unfit {
    const clash = this.keepLocked();
    if (clash) return clash;
    this.items.forEach((item, index) => {
      // Worth nothing, wanted by nothing, and not for nothing.
      const idle = item.worth === 0 && (this.neededBy[index]?.length ?? 0) === 0 && item.flash + item.ram > 0;
      if (idle && this.state[index] === OPEN) this.decide(index, DROPPED);
    });
    this.search();
    // Nothing but what is locked always is a solution.
    const { kept } = this.best ?? { kept: [] };
    const whole = this.withFree(kept);
    const keep = whole.map((index) => this.items[index]?.id ?? '');
    const drop = this.items.map((item) => item.id).filter((name) => !keep.includes(name));
    const total = (key: 'flash' | 'ram' | 'worth') => whole.reduce((sum, index) => sum + (this.items[index]?.[key] ?? 0), 0); // prettier-ignore
    return { keep, drop, flash: total('flash'), ram: total('ram'), worth: total('worth'), optimal: true };
  }

  /** Keeps what is locked and all it needs; or says why that cannot be. */
  private keepLocked(): Unfit | undefined {
    const locked = this.items.flatMap((item, index) => (item.locked ? [index] : []));
    const whole = new Set(locked);
    // What is added while it is gone through is gone through too.
    for (const index of whole) for (const need of this.needs[index] ?? []) whole.add(need);
    const named = [...whole].map((index) => this.items[index]?.id ?? '').sort();
    for (const index of whole) {
      const against = this.excluded[index]?.find((other) => whole.has(other));
      if (against !== undefined)
        return { infeasible: true, because: `${this.items[index]?.id} and ${this.items[against]?.id} must both be kept, and exclude each other`, shortFlash: 0, shortRam: 0 }; // prettier-ignore
    }
    for (const index of whole) this.mark(index, KEPT);
    const shortFlash = Math.max(0, this.sum.flash - this.flashFree);
    const shortRam = Math.max(0, this.sum.ram - this.ramFree);
    if (this.fits()) {
      // Nothing can be against it: all that is needed is kept, and nothing kept excludes another.
      for (const index of whole) this.spread(index);
      return undefined;
    }
    const short = [shortFlash > 0 && `${shortFlash} of flash`, shortRam > 0 && `${shortRam} of RAM`].filter(Boolean); // prettier-ignore
    return { infeasible: true, because: `${named.join(', ')} must be kept, and ${short.join(' and ')} too little is there`, shortFlash, shortRam }; // prettier-ignore
  }

  private fits(): boolean {
    return this.sum.flash <= this.flashFree + TOLERANCE && this.sum.ram <= this.ramFree + TOLERANCE;
  }

  private mark(index: number, as: number): void {
    this.state[index] = as;
    this.trail.push(index);
    if (as === KEPT) this.add(index, 1);
  }

  private add(index: number, times: 1 | -1): void {
    const item = this.items[index];
    if (!item) return;
    this.sum.worth += times * item.worth;
    this.sum.flash += times * item.flash;
    this.sum.ram += times * item.ram;
  }

  /** Decides one and everything that follows from it; false where that cannot be. The trail tells what was decided. */
  private decide(index: number, as: number): boolean {
    if (this.state[index] !== OPEN) return this.state[index] === as;
    this.mark(index, as);
    return (as === DROPPED || this.fits()) && this.spread(index);
  }

  /** What follows from one that is decided. */
  private spread(index: number): boolean {
    if (this.state[index] === KEPT)
      return (
        (this.needs[index] ?? []).every((need) => this.decide(need, KEPT)) &&
        (this.excluded[index] ?? []).every((other) => this.decide(other, DROPPED))
      );
    return (
      (this.neededBy[index] ?? []).every((other) => this.decide(other, DROPPED)) &&
      // Of twins the first are kept: another order of the same is no other solution.
      (this.twins[index] ?? []).every((twin) => this.decide(twin, DROPPED))
    );
  }

  private undoTo(length: number): void {
    while (this.trail.length > length) {
      const index = this.trail.pop() ?? 0;
      if (this.state[index] === KEPT) this.add(index, -1);
      this.state[index] = OPEN;
    }
  }

  private search(): void {
    if (this.hopeless()) return;
    const next = this.orders[0]?.by.find((index) => this.state[index] === OPEN);
    if (next === undefined) return this.found();
    const mark = this.trail.length;
    for (const as of [KEPT, DROPPED]) {
      if (this.decide(next, as)) this.search();
      this.undoTo(mark);
    }
  }

  /** Whether nothing that comes of this can be better than the best one. */
  private hopeless(): boolean {
    const { best, state, sum } = this;
    if (!best) return false;
    const room = { flash: this.flashFree - sum.flash, ram: this.ramFree - sum.ram };
    let most = Infinity;
    for (const order of this.orders) {
      most = Math.min(most, sum.worth + fractional(order, state, room));
      if (most < best.worth - slack(best.worth)) return true;
    }
    // Of whole numbers the next better one is a whole step away.
    if (most > best.worth + Math.max(slack(best.worth), this.steps.worth - slack(best.worth))) return false;
    // It can be as good at best: then it must take less.
    const missing = best.worth - slack(best.worth) - sum.worth;
    const flash = sum.flash + toReach(this.cheapest.flash, state, missing);
    if (flash > best.flash + slack(best.flash)) return true;
    if (flash <= best.flash - Math.max(slack(best.flash), this.steps.flash - slack(best.flash))) return false;
    return sum.ram + toReach(this.cheapest.ram, state, missing) > best.ram + slack(best.ram);
  }

  private found(): void {
    const kept = [...this.state.keys()].filter((index) => this.state[index] === KEPT);
    // Summed anew: what is added and taken away again leaves dust.
    const total = (key: keyof Sum) => kept.reduce((sum, index) => sum + (this.items[index]?.[key] ?? 0), 0);
    const solution = { worth: total('worth'), flash: total('flash'), ram: total('ram'), kept };
    if (!this.best || isBetter(solution, this.best)) this.best = solution;
  }

  /** With those that cost nothing and are worth nothing, where they make the list come first. */
  private withFree(kept: readonly number[]): number[] {
    const last = kept.at(-1) ?? -1;
    const free = this.items.flatMap((item, index) =>
      index < last && this.isFree(item, index) && !kept.includes(index) ? [index] : [],
    );
    return [...kept, ...free].sort((a, b) => a - b);
  }

  private isFree({ flash, ram, worth }: Feature, index: number): boolean {
    const bound = [this.needs, this.neededBy, this.excluded].some((list) => (list[index]?.length ?? 0) > 0);
    return flash === 0 && ram === 0 && worth === 0 && !bound;
  }

  /** For each, those after it that are the very same to everything else. */
  private twinsOf(): number[][] {
    const keys = this.items.map(({ flash, ram, worth, locked }, index) =>
      locked ? `locked ${index}` : JSON.stringify([flash, ram, worth, ...[this.needs, this.neededBy, this.excluded].map((list) => [...(list[index] ?? [])].sort((a, b) => a - b))]),
    ); // prettier-ignore
    return keys.map((key, index) => keys.flatMap((other, at) => (at > index && other === key ? [at] : [])));
  }
}

/** Sums of fractions in another order differ by so much. */
const slack = (size: number): number => TOLERANCE * Math.max(1, Math.abs(size));

function isBetter(one: Solution, other: Solution): boolean {
  const less = (key: 'flash' | 'ram') => other[key] - one[key];
  if (Math.abs(one.worth - other.worth) > slack(other.worth)) return one.worth > other.worth;
  for (const key of ['flash', 'ram'] as const)
    if (Math.abs(less(key)) > slack(other[key])) return less(key) > 0;
  const at = one.kept.findIndex((index, place) => index !== other.kept[place]);
  if (at < 0) return one.kept.length < other.kept.length;
  const there = other.kept[at];
  return there !== undefined && (one.kept[at] ?? 0) < there;
}

/** The greatest common divisor of whole numbers; 0 where one of them is none. */
function stepOf(numbers: readonly number[]): number {
  if (!numbers.every(Number.isInteger)) return 0;
  const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));
  return numbers.reduce(common, 0);
}

function reversed(lists: readonly (readonly number[])[]): number[][] {
  const back: number[][] = lists.map(() => []);
  lists.forEach((list, index) => list.forEach((to) => back[to]?.push(index)));
  return back;
}
