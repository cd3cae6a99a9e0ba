import { certain } from '../tree/certain';
import { type Filled, isFilled } from '../tree/filled';
import type { Landing } from '../machine/landing';
import { harnessModel, type HarnessModel, type Unit, unitsOf } from './harnessModel';
import type { PriceLine } from './judged';
import { searchPlacement } from '../solver/search';
import { smallestUnmeetable } from '../solver/unmeetable';
import { whyUnmeetable } from './whyUnmeetable';
import type { WiringCase } from './wiringCase';

/** A part's place in a harness, and what it costs there. */
export interface PlacedUnit {
  id: string;
  parts: string[];
  landing: Landing;
  lines: PriceLine[];
}

export interface Unmeetable {
  /** Ids of the parts that cannot all be placed; without any one of them the others can. */
  parts: string[];
  /** What they want, and why not all can have it. */
  because: string[];
  /** Proven that no smaller set of parts fails. */
  smallest: boolean;
}

/** The harness of least price, or as much of it as can be, with what cannot be met. */
export interface FoundHarness {
  harness: Record<string, Landing>;
  placed: PlacedUnit[];
  /** Given up by the harness as a whole, paid for once. */
  losses: PriceLine[];
  price: number;
  /** Empty when every part has a place; then the price is proven least. */
  unmeetable: Unmeetable[];
}

/**
 * Places every part so that all hard rules hold and the total price is least. What is told stays where it is. Where
 * not all can be placed, the smallest set of parts that cannot be together is named, the last of it in the machine's
 * order is left out, and the rest is placed. Pure; the same case gives the same harness.
 */
export function findHarness(wiring: WiringCase, told: Readonly<Record<string, Landing>> = {}): FoundHarness {
  let units = unitsOf(wiring, told);
  const unmeetable: Unmeetable[] = [];
  for (;;) {
    const model = harnessModel(wiring, units);
    const found = searchPlacement(model.placement);
    if (found) return { ...harnessOf(model, found.picks, told), price: found.price, unmeetable };
    const { items, smallest } = certain(smallestUnmeetable(model.placement), 'what cannot be placed');
    const culprits = units.filter((_unit, index) => items.includes(index));
    if (!isFilled(culprits)) throw new Error('nothing is in the way, and no placement was found');
    unmeetable.push({
      parts: culprits.map(({ id }) => id),
      because: whyUnmeetable(wiring, culprits),
      smallest,
    });
    const last = leftOut(culprits, told);
    units = units.filter((unit) => unit !== last);
  }
}

/** What was told by hand is left out last. */
const leftOut = (culprits: Readonly<Filled<Unit>>, told: Readonly<Record<string, Landing>>) =>
  culprits.filter(({ parts }) => !parts.some(({ id }) => told[id])).at(-1) ?? culprits.at(-1);

function harnessOf(
  { units }: HarnessModel,
  picks: readonly number[],
  told: Readonly<Record<string, Landing>>,
) {
  const harness: Record<string, Landing> = {};
  const losses = new Map<string, PriceLine>();
  const placed = units.map((unit, index): PlacedUnit => {
    const judged = certain(unit.landings[picks[index] ?? -1], `the landing picked for ${unit.id}`);
    for (const part of unit.parts)
      harness[part.id] = told[part.id] ?? landingFor(part.type.kind, judged.landing);
    for (const { key, ...line } of judged.losses) losses.set(key, line);
    return {
      id: unit.id,
      parts: unit.parts.map(({ id }) => id),
      landing: judged.landing,
      lines: judged.lines,
    };
  });
  return { harness, placed, losses: [...losses.values()] };
}

/** Only a motor's plug can be in the other way round. */
function landingFor(kind: string, landing: Landing): Landing {
  if (!('socket' in landing) || kind === 'motor') return landing;
  const { turned: _plug, ...rest } = landing;
  return rest;
}
