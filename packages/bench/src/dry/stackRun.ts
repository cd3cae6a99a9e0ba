import { closesAnswer } from '@jolly/core/bringup/answering';
import type { Facts } from '@jolly/core/machine/facts';
import { dryBoard } from './dryBoard';

/** How deep the stack of an image went, and what it did meanwhile. */
export interface StackRun {
  usedBytes: number;
  reservedBytes: number;
  /** What it was told and did to the end. */
  did: string[];
}

/** What takes much of the stack: booting, long reports, homing, mapping, moving, heating. What an image does not know is left out. */
const TASKS: readonly { what: string; lines: readonly string[] }[] = [
  { what: 'told its settings', lines: ['M503'] },
  { what: 'homed', lines: ['G28'] },
  { what: 'took a map', lines: ['map take'] },
  {
    what: 'moved',
    lines: ['G90', 'G1 X40 Y30 Z10 F3000', 'G1 X60 Y50 F3000', 'G2 X70 Y60 I5 J5 F2000', 'M400'],
  },
  { what: 'heated', lines: ['M104 S180', 'M140 S50'] },
  { what: 'listed its card', lines: ['card list'] },
];
const LONGEST_S = 300;
/** After what it was told it goes on a little: heaters and moves work meanwhile. */
const AFTER_S = 5;

/** Runs an image on the bench through what takes much of its stack, and reads how deep that went. */
export async function stackRun(facts: Facts, image: Uint8Array, seed = 1): Promise<StackRun> {
  const { bench, heard } = await dryBoard(facts, image, seed);
  bench.advance(1);
  const ask = (line: string): string | undefined => {
    const from = heard.length;
    const closing = () => heard.slice(from).find(closesAnswer);
    bench.send(line);
    bench.advanceUntil(() => closing() !== undefined, LONGEST_S);
    return closing();
  };
  const did = ['booted'];
  for (const { what, lines } of TASKS) if (lines.map(ask).includes('done')) did.push(what);
  bench.advance(AFTER_S);
  return { usedBytes: bench.stackUsed(), reservedBytes: facts.kit.stack_bytes, did };
}
