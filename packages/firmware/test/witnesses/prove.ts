import { cardBlocks } from '@jolly/bench';
import type { Option } from '@jolly/core/kit/kit';
import type { Compiler } from '../../../server/src/build/compiler';
import { buildFor, demoFacts, flashed, own, talkTo } from '../fixtures/builtMachine';
import type { Witness } from './witness';

/** What a witness saw: what each value does, and how large its image is. */
export interface Proof {
  shows: [unknown, unknown];
  bytes: [number, number];
}

/** A few layers of a small square. */
const printCard = () => cardBlocks([{ name: 'SQUARE.GCO', bytes: new TextEncoder().encode(SQUARE) }]);
const LAYERS = [1, 2, 3, 4, 5, 6].map((layer) => {
  const around = ['100 Y100', '140 Y100', '140 Y140', '100 Y140', '100 Y100'];
  return [`G1 Z${layer * 0.2} F600`, ...around.map((to, index) => `G1 X${to} E${layer * 5 + index} F3000`)].join('\n'); // prettier-ignore
});
const SQUARE = ['; a square', 'G90', 'G92 E0', ...LAYERS, 'G1 Z20 F600'].join('\n');

/** Builds and runs a machine with both values of an option. */
export async function prove(
  witness: Witness,
  compiler: Compiler,
  spoil?: (name: string, text: string) => string,
): Promise<Proof> {
  const id = witness.machine ?? 'plover';
  const stands = await demoFacts(id, ...(witness.with ?? []));
  const of = async (value: Witness['values'][number]) => {
    const facts = await demoFacts(id, ...(witness.with ?? []), own(witness.key, value));
    const outcome = await buildFor(facts, compiler, spoil);
    const talk = await talkTo({ facts: stands, state: flashed(stands, outcome), seed: 3, card: printCard() });
    return { shows: witness.shows(talk), bytes: 'failed' in outcome ? 0 : outcome.sizes.flashBytes };
  };
  const [one, other] = [await of(witness.values[0]), await of(witness.values[1])];
  return { shows: [one.shows, other.shows], bytes: [one.bytes, other.bytes] };
}

/** Flags that only say which way round something is wired take no code; a locked card needs less of it, not more. */
const TAKES_NONE = /^direction\.|\.pull-up$|^card\.locked$/;
const OFF: readonly unknown[] = [false, 'none', 'no', 'pot', 'left-off'];

/** Whether switching an option off must leave code out. */
export const leavesOut = ({ key, kind }: Option, witness: Witness): boolean =>
  (kind === 'flag' || kind === 'choice') && OFF.includes(witness.values[0]) && !TAKES_NONE.test(key);
