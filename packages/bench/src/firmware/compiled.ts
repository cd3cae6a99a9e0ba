import { sameBytes } from '../board/bootloader';
import type { CycleCosts } from './cycles';
import { metered } from './meter';

interface Compiled {
  code: Uint8Array;
  costs: CycleCosts;
  module: WebAssembly.Module;
}
/** A board is powered again and again with the same image: so many are kept, the one used last first. */
const KEPT = 4;
let kept: readonly Compiled[] = [];

/**
 * An image's code with its meter, compiled; the same module for the same bytes on the same class of chips.
 * @throws {Error} for code that is no WebAssembly, or an instruction that the chips do not have
 */
export async function compiled(code: Uint8Array, costs: CycleCosts): Promise<WebAssembly.Module> {
  const found = kept.find((each) => each.costs === costs && sameBytes(each.code, code)) ?? {
    code: code.slice(),
    costs,
    // An image is bytes in memory of its own.
    module: await WebAssembly.compile(metered(code, costs) as BufferSource),
  };
  kept = [found, ...kept.filter((each) => each !== found)].slice(0, KEPT);
  return found.module;
}
