import { NEVER } from './assignment';
import { firstNode, layOut, type Layout, type Node, without } from './layout';
import { type Choice, type Placed, type Placement, priceOf } from './placement';
import { relax } from './relax';
import { tighten } from './tighten';

/** Rounds of the relaxation at the start, and below it, where worths are known already: few until a placement is known. */
const FIRST_ROUNDS = 12;
const SEEKING_ROUNDS = 2;
const ROUNDS = 6;

/**
 * The placement of least price that keeps every rule, proven so, or undefined when there is none.
 *
 * Branch and bound over a Lagrangian bound. Where the picks of the bound keep all rules they are a placement, and
 * where nothing below can be cheaper, the best below. Else one broken rule is chosen and the place parted into cases
 * that each mend it and together leave nothing out.
 */
export function searchPlacement(model: Placement): Placed | undefined {
  if (model.items.some(({ choices }) => choices.length === 0)) return undefined;
  const layout = layOut(model);
  let best: Placed | undefined;
  const keep = (picks: Int32Array) => {
    if (breaksRules(layout, picks)) return false;
    const own = Array.from(picks, (choice, item) => choice - layout.firstOf[item]!);
    const price = priceOf(model, own);
    if (!best || price < best.price) best = { picks: own, price };
    return true;
  };
  const visit = (node: Node, rounds: number): void => {
    if (!tighten(layout, node)) return;
    const paid = [...node.given].reduce((sum, loss) => sum + model.losses[loss]!, 0);
    const relaxed = relax(layout, node, () => (best?.price ?? NEVER) - paid, rounds, keep);
    if (!relaxed) return;
    const cases = split(layout, node, relaxed.picks);
    const below = cases ?? (relaxed.proven ? [] : splitPick(layout, node, relaxed.picks));
    for (const next of below) visit(next, best ? ROUNDS : SEEKING_ROUNDS);
  };
  visit(firstNode(layout), FIRST_ROUNDS);
  return best;
}

function breaksRules({ model, choices }: Layout, picks: Int32Array): boolean {
  const taken = new Set<number>();
  const modes = new Map<number, number>();
  const drawn = new Float64Array(model.capacities.length);
  for (const pick of picks) {
    const { takes, draws, mode } = choices[pick]!;
    for (const take of takes) {
      if (taken.has(take)) return true;
      taken.add(take);
    }
    for (const { from, amount } of draws ?? NONE) {
      drawn[from]! += amount;
      if (drawn[from]! > model.capacities[from]!) return true;
    }
    if (!mode) continue;
    if ((modes.get(mode.group) ?? mode.is) !== mode.is) return true;
    modes.set(mode.group, mode.is);
  }
  return false;
}
const NONE: { from: number; amount: number }[] = [];

/**
 * The cases below this place that leave nothing out; undefined when these picks break no rule. A group in two modes
 * is parted first: there are few groups, and each decides for many items.
 */
function split(layout: Layout, node: Node, picks: Int32Array): Node[] | undefined {
  return (
    splitModes(layout, node, picks) ??
    splitTakes(layout, node, picks) ??
    splitDraws(layout, node, picks) ??
    splitLosses(layout, node, picks)
  );
}

/** The group that two picks want in two modes runs in one of its modes. */
function splitModes({ choices }: Layout, node: Node, picks: Int32Array): Node[] | undefined {
  const modeOf = new Map<number, number>();
  for (const pick of picks) {
    const { mode } = choices[pick]!;
    if (!mode) continue;
    const other = modeOf.get(mode.group);
    modeOf.set(mode.group, mode.is);
    if (other === undefined || other === mode.is) continue;
    const modes = new Set<number>();
    choices.forEach((choice, at) => {
      if (node.left[at] && choice.mode?.group === mode.group) modes.add(choice.mode.is);
    });
    return [...modes].map((is) => without(node, (at) => outOfMode(choices[at]!, mode.group, is)));
  }
  return undefined;
}

const outOfMode = ({ mode }: Choice, group: number, is: number) => mode?.group === group && mode.is !== is;

/** Of two picks that take one thing, the first keeps it and nobody else has it, or the first does without. */
function splitTakes({ choices, itemOf, takers }: Layout, node: Node, picks: Int32Array): Node[] | undefined {
  const takenBy = new Map<number, number>();
  for (const [item, pick] of picks.entries())
    for (const take of choices[pick]!.takes) {
      const first = takenBy.get(take);
      takenBy.set(take, item);
      if (first === undefined) continue;
      const all = takers[take]!;
      const others = new Set(all.filter((at) => itemOf[at] !== first));
      const own = new Set(all.filter((at) => itemOf[at] === first));
      return [without(node, (at) => others.has(at)), without(node, (at) => own.has(at))];
    }
  return undefined;
}

/** Of the picks that overdraw something, the one that draws most and could do otherwise does so, or never does. */
function splitDraws({ model, choices, itemOf }: Layout, node: Node, picks: Int32Array): Node[] | undefined {
  const drawn = model.capacities.map(() => 0);
  for (const pick of picks)
    for (const { from, amount } of choices[pick]!.draws ?? NONE) drawn[from]! += amount;
  const from = drawn.findIndex((amount, at) => amount > model.capacities[at]!);
  if (from < 0) return undefined;
  const amounts = Array.from(picks, (pick) => drawOf(choices[pick]!, from));
  const spared = (item: number) => (at: number) =>
    itemOf[at] === item && drawOf(choices[at]!, from) < amounts[item]!;
  const free = amounts
    .map((_amount, item) => item)
    .filter((item) => amounts[item]! > 0 && choices.some((_choice, at) => node.left[at] && spared(item)(at)));
  if (free.length === 0) return [];
  const most = free.reduce((one, other) => (amounts[other]! > amounts[one]! ? other : one));
  return [without(node, (at) => itemOf[at] === most && !spared(most)(at)), without(node, spared(most))];
}

const drawOf = ({ draws }: Choice, from: number) => draws?.find((draw) => draw.from === from)?.amount ?? 0;

/** Something given up that is not paid for yet: it is kept, or paid for. */
function splitLosses({ choices }: Layout, node: Node, picks: Int32Array): Node[] | undefined {
  for (const pick of picks)
    for (const loss of choices[pick]!.loses ?? []) {
      if (node.given.has(loss)) continue;
      const given = { ...without(node, () => false), given: new Set([...node.given, loss]) };
      return [without(node, (at) => choices[at]!.loses?.includes(loss) ?? false), given];
    }
  return undefined;
}

/** Picks that keep all rules and may not be the best: the item with most choices left keeps its pick, or does not. */
function splitPick({ firstOf, itemOf }: Layout, { left, ...node }: Node, picks: Int32Array): Node[] {
  let item = -1;
  let most = 1;
  for (let each = 0; each < picks.length; each += 1) {
    let count = 0;
    for (let at = firstOf[each]!; at < firstOf[each + 1]!; at += 1) count += left[at]!;
    if (count > most) [item, most] = [each, count];
  }
  if (item < 0) return [];
  const here = { ...node, left };
  return [
    without(here, (at) => at === picks[item]),
    without(here, (at) => itemOf[at] === item && at !== picks[item]),
  ];
}
