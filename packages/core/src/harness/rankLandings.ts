import type { Landing } from '../machine/machine';
import type { Judged, PriceLine } from './judged';
import { limitOf, type Unit, unitsOf } from './harnessModel';
import { priceAlone } from './judged';
import type { WiringCase } from './wiringCase';

/** One place a part could go. */
export interface RankedLanding {
  landing: Landing;
  price: number;
  lines: PriceLine[];
  /** What stands in the way with the rest of the harness as it is; empty for a place that is free. */
  clashes: Clash[];
}
export interface Clash {
  /** The part in the way. */
  part: string;
  what: string;
}

/** Every legal landing of one part, the rest of the harness staying: free ones first, then by price. */
export function rankLandings(
  wiring: WiringCase,
  harness: Readonly<Record<string, Landing>>,
  part: string,
): RankedLanding[] {
  const { [part]: _own, ...rest } = harness;
  const units = unitsOf(wiring, rest);
  const unit = units.find(({ parts }) => parts.some(({ id }) => id === part));
  if (!unit) return [];
  const alone = { ...wiring, parts: unit.parts };
  const choices = unitsOf({ ...alone, parts: wiring.parts }, without(rest, unit)).find(
    ({ id }) => id === unit.id,
  )!;
  const others = units.filter((other) => other !== unit && other.parts.some(({ id }) => rest[id]));
  return choices.landings
    .map((judged) => ({
      landing: judged.landing,
      price: priceAlone(judged),
      lines: [...judged.lines, ...judged.losses.map(({ key: _key, ...line }) => line)],
      clashes: clashesOf(wiring, judged, others),
    }))
    .sort((a, b) => Number(a.clashes.length > 0) - Number(b.clashes.length > 0) || a.price - b.price);
}

const without = (harness: Readonly<Record<string, Landing>>, unit: Unit) =>
  Object.fromEntries(Object.entries(harness).filter(([id]) => !unit.parts.some((part) => part.id === id)));

function clashesOf(wiring: WiringCase, judged: Judged, others: readonly Unit[]): Clash[] {
  const found = others.flatMap((other) => {
    const there = other.landings[0]!;
    const shared = there.takes.find((take) => judged.takes.includes(take));
    if (shared) return [{ part: other.id, what: `${other.id} has ${takeInWords(shared)}` }];
    if (judged.mode && there.mode?.group === judged.mode.group && there.mode.hz !== judged.mode.hz)
      return [
        {
          part: other.id,
          what: `${other.id} runs ${there.mode.group} at ${there.mode.hz} Hz; this one wants ${judged.mode.hz} Hz`,
        },
      ];
    return [];
  });
  for (const { from } of judged.draws) {
    const sum = (one: Judged) =>
      one.draws.reduce((total, draw) => (draw.from === from ? total + draw.ma : total), 0);
    const total = others.reduce((amount, { landings }) => amount + sum(landings[0]!), sum(judged));
    const most = others.find(({ landings }) => sum(landings[0]!) > 0);
    if (total > limitOf(wiring, from) && most)
      found.push({
        part: most.id,
        what: `${from} would give ${(total / 1000).toFixed(1)} A and may give ${(limitOf(wiring, from) / 1000).toFixed(1)} A`,
      });
  }
  return found;
}

function takeInWords(take: string): string {
  const [kind, id] = [take.slice(0, take.indexOf(':')), take.slice(take.indexOf(':') + 1)];
  return { pin: `pin p${id}`, at: `contact ${id}`, line: `interrupt line ${id}`, socket: `socket ${id}`, address: `address ${id}` }[kind] ?? take; // prettier-ignore
}
