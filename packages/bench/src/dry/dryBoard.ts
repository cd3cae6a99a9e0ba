import { asSold, type Facts } from '@jolly/core/machine/facts';
import { boardHolding } from '../board/board';
import { type Bench, powerOn } from '../clock/bench';

/** A machine on the bench that was just powered, with an image in a board that knows nothing else; and what it says. */
export async function dryBoard(
  facts: Facts,
  image: Uint8Array,
  seed: number,
): Promise<{ bench: Bench; heard: string[] }> {
  const heard: string[] = [];
  const state = boardHolding(image, asSold(facts));
  const bench = await powerOn({ facts, state, seed, onLine: (line) => void heard.push(line) });
  return { bench, heard };
}
