interface Sized {
  flash: number;
  ram: number;
  worth: number;
}

/** Items by worth for what they take of one weighing of flash and RAM, the dearest first. */
export interface Order {
  by: readonly number[];
  takes: Float64Array;
  worth: Float64Array;
  /** How flash and RAM are weighed. */
  weighs: { flash: number; ram: number };
}

const STEPS = 16;

/** The weighings that bound best: flash alone, RAM alone, and the mix whose fractional knapsack is least at the start. */
export function ordersOf(items: readonly Sized[], flashFree: number, ramFree: number): Order[] {
  const flash = 1 / Math.max(flashFree, 1);
  const ram = 1 / Math.max(ramFree, 1);
  const open = new Int8Array(items.length);
  const mixes = Array.from({ length: STEPS + 1 }, (_, step) => {
    const share = step / STEPS;
    return orderBy(items, { flash: share * flash, ram: (1 - share) * ram });
  });
  const bound = (order: Order) => fractional(order, open, { flash: flashFree, ram: ramFree });
  const best = mixes.reduce((one, other) => (bound(other) < bound(one) ? other : one));
  const [ramAlone, flashAlone] = [mixes[0], mixes.at(-1)];
  return [best, flashAlone, ramAlone].filter((order, at, all): order is Order => order !== undefined && all.indexOf(order) === at); // prettier-ignore
}

function orderBy(items: readonly Sized[], weighs: { flash: number; ram: number }): Order {
  const takes = Float64Array.from(items, ({ flash, ram }) => flash * weighs.flash + ram * weighs.ram);
  const worth = Float64Array.from(items, (item) => item.worth);
  const density = (index: number) => ((takes[index] ?? 0) > 0 ? (worth[index] ?? 0) / (takes[index] ?? 1) : Infinity); // prettier-ignore
  const by = [...items.keys()].sort((a, b) => density(b) - density(a) || a - b);
  return { by, takes, worth, weighs };
}

/** The most worth of open items (state 0) that fits into the room, were the last one divisible and only one weighing counted. */
export function fractional(order: Order, state: Int8Array, room: { flash: number; ram: number }): number {
  let left = room.flash * order.weighs.flash + room.ram * order.weighs.ram;
  let worth = 0;
  for (const index of order.by) {
    if (state[index] !== 0) continue;
    const takes = order.takes[index] ?? 0;
    if (takes <= left) {
      left -= takes;
      worth += order.worth[index] ?? 0;
    } else {
      return left > 0 ? worth + ((order.worth[index] ?? 0) * left) / takes : worth;
    }
  }
  return worth;
}

/** Items worth something, by what they take of flash or RAM for their worth, the cheapest first. */
export interface Cheapest {
  by: readonly number[];
  takes: Float64Array;
  worth: Float64Array;
}
export function cheapestBy(items: readonly Sized[], key: 'flash' | 'ram'): Cheapest {
  const takes = Float64Array.from(items, (item) => item[key]);
  const worth = Float64Array.from(items, (item) => item.worth);
  const price = (index: number) => (takes[index] ?? 0) / (worth[index] ?? 1);
  const by = [...items.keys()].filter((index) => (worth[index] ?? 0) > 0).sort((a, b) => price(a) - price(b));
  return { by, takes, worth };
}

/** The least that open items (state 0) take which together are worth so much, were the last one divisible. */
export function toReach({ by, takes, worth }: Cheapest, state: Int8Array, least: number): number {
  let [missing, taken] = [least, 0];
  if (missing <= 0) return 0;
  for (const index of by) {
    if (state[index] !== 0) continue;
    const gives = worth[index] ?? 0;
    if (gives >= missing) return taken + ((takes[index] ?? 0) * missing) / gives;
    missing -= gives;
    taken += takes[index] ?? 0;
  }
  return Infinity;
}
