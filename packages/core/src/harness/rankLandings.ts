import type { Landing } from '../machine/landing';
import { landingOf, limitOf, seatsOf } from './harnessModel';
import { type Judged, priceAlone, type PriceLine } from './judged';
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
  /** The part in the way; empty where the new part alone is too much. */
  part: string;
  what: string;
}

/** Every legal landing of one part, the rest of the harness staying: free ones first, then by price. */
export function rankLandings(
  wiring: WiringCase,
  harness: Readonly<Record<string, Landing>>,
  part: string,
): RankedLanding[] {
  const { own, others } = seatAmong(wiring, harness, part);
  const places = own.map((judged) => ({
    landing: judged.landing,
    price: priceAlone(judged),
    lines: [...judged.lines, ...judged.losses.map(({ key: _key, ...line }) => line)],
    clashes: clashesOf(wiring, judged, others),
  }));
  const free = new Set(
    places.filter(({ clashes }) => clashes.length === 0).map(({ landing }) => JSON.stringify(landing)),
  );
  return places
    .filter(({ landing }) => !jointNeedless(landing, free))
    .sort((a, b) => Number(a.clashes.length > 0) - Number(b.clashes.length > 0) || a.price - b.price);
}

/** The free landing of least price: the first of `rankLandings`, without weighing what is in the way of dearer ones. */
export function cheapestFree(
  wiring: WiringCase,
  harness: Readonly<Record<string, Landing>>,
  part: string,
): Landing | undefined {
  const { own, others } = seatAmong(wiring, harness, part);
  const isFree = (judged: Judged) => clashesOf(wiring, judged, others).length === 0;
  const unjoined = (landing: Landing) => {
    const twin = withoutJoint(landing);
    return twin !== undefined && own.some((other) => JSON.stringify(other.landing) === twin && isFree(other));
  };
  return own
    .map((judged) => ({ judged, price: priceAlone(judged) }))
    .sort((a, b) => a.price - b.price)
    .find(({ judged }) => isFree(judged) && !unjoined(judged.landing))?.judged.landing;
}

/** Every legal landing of a part, and what the other parts have. */
function seatAmong(wiring: WiringCase, harness: Readonly<Record<string, Landing>>, part: string) {
  const seats = seatsOf(wiring);
  const own = seats.find(({ parts }) => parts.some(({ id }) => id === part));
  const others = seats.flatMap((seat): Placed[] => {
    const landing = seat === own ? undefined : landingOf(seat, harness);
    const judged = landing && seat.at(landing);
    return judged ? [{ id: seat.id, judged }] : [];
  });
  return { own: own?.all() ?? [], others };
}

/** A wire is joined to another only where one sits: not when the same contacts are free without a joint. */
function jointNeedless(landing: Landing, free: ReadonlySet<string>): boolean {
  const twin = withoutJoint(landing);
  return twin !== undefined && free.has(twin);
}

/** The same landing without its joints, as it is compared; undefined where it has none. */
function withoutJoint(landing: Landing): string | undefined {
  if (!('leads' in landing) || !landing.with?.some(({ kind }) => kind === 'splice')) return undefined;
  const others = landing.with.filter(({ kind }) => kind !== 'splice');
  return JSON.stringify({ leads: landing.leads, ...(others.length > 0 && { with: others }) });
}

/** What is there already. */
interface Placed {
  id: string;
  judged: Judged;
}

function clashesOf(wiring: WiringCase, judged: Judged, others: readonly Placed[]): Clash[] {
  const found = others.flatMap((other) => {
    const there = other.judged;
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
    const total = others.reduce((amount, there) => amount + sum(there.judged), sum(judged));
    if (total > limitOf(wiring, from))
      found.push({
        // Alone or with others: what is there already is named, else the part itself is too much.
        part: others.find((there) => sum(there.judged) > 0)?.id ?? '',
        what: `${from} would give ${(total / 1000).toFixed(1)} A and may give ${(limitOf(wiring, from) / 1000).toFixed(1)} A`,
      });
  }
  return found;
}

function takeInWords(take: string): string {
  const [kind, id] = [take.slice(0, take.indexOf(':')), take.slice(take.indexOf(':') + 1)];
  return { pin: `pin p${id}`, at: `contact ${id}`, line: `interrupt line ${id}`, socket: `socket ${id}`, address: `address ${id}` }[kind] ?? take; // prettier-ignore
}
