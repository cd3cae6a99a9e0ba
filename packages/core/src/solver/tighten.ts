import type { Layout, Node } from './layout';

/** Strikes out what cannot be, until nothing more follows; false when an item is left without a choice. */
export function tighten(layout: Layout, { left }: Node): boolean {
  const { model, firstOf } = layout;
  const settled = new Uint8Array(model.items.length);
  for (let again = true; again;) {
    again = false;
    const least = leastDraws(layout, left);
    if (!least) return false;
    for (let item = 0; item < settled.length; item += 1) {
      let count = 0;
      let last = -1;
      for (let at = firstOf[item]!; at < firstOf[item + 1]!; at += 1) {
        if (!left[at]) continue;
        if (overdraws(layout, least, item, at)) {
          left[at] = 0;
          again = true;
        } else {
          count += 1;
          last = at;
        }
      }
      if (count === 0) return false;
      if (count > 1 || settled[item]) continue;
      settled[item] = 1;
      if (settle(layout, left, item, last)) again = true;
    }
  }
  return true;
}

/** What each item draws at least from each capacity, and what is then to spare; undefined when that is too much. */
interface Least {
  of: Float64Array;
  spare: Float64Array;
}

function leastDraws({ model, draws, firstOf }: Layout, left: Uint8Array): Least | undefined {
  const wide = model.capacities.length;
  const of = new Float64Array(model.items.length * wide);
  const drawing = new Int32Array(wide);
  const spare = Float64Array.from(model.capacities);
  for (let item = 0; item < model.items.length; item += 1) {
    drawing.fill(0);
    let count = 0;
    const row = item * wide;
    for (let at = firstOf[item]!; at < firstOf[item + 1]!; at += 1) {
      if (!left[at]) continue;
      count += 1;
      for (let each = draws.begin[at]!; each < draws.begin[at + 1]!; each += 1) {
        const from = draws.from[each]!;
        const amount = draws.amount[each]!;
        if (drawing[from] === 0 || amount < of[row + from]!) of[row + from] = amount;
        drawing[from]! += 1;
      }
    }
    for (let from = 0; from < wide; from += 1) {
      if (drawing[from]! < count) of[row + from] = 0;
      spare[from]! -= of[row + from]!;
      if (spare[from]! < 0) return undefined;
    }
  }
  return { of, spare };
}

function overdraws({ model, draws }: Layout, { of, spare }: Least, item: number, at: number): boolean {
  const row = item * model.capacities.length;
  for (let each = draws.begin[at]!; each < draws.begin[at + 1]!; each += 1)
    if (draws.amount[each]! - of[row + draws.from[each]!]! > spare[draws.from[each]!]!) return true;
  return false;
}

/** An item with one choice left takes it from all others, and sets the mode of its group. */
function settle({ choices, itemOf, takers }: Layout, left: Uint8Array, item: number, only: number): boolean {
  let struck = false;
  const strike = (at: number) => {
    left[at] = 0;
    struck = true;
  };
  const { takes, mode } = choices[only]!;
  for (const take of takes) for (const at of takers[take]!) if (left[at] && itemOf[at] !== item) strike(at);
  if (mode)
    choices.forEach((choice, at) => {
      if (left[at] && choice.mode?.group === mode.group && choice.mode.is !== mode.is) strike(at);
    });
  return struck;
}
