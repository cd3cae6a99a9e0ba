/**
 * Every option of Lantern, in two ways: `npm run options`.
 * 1. Its witness: two values, built and run; they must do something else, and what is off must be left out.
 * 2. Sets: the largest, the smallest, and sets that hold every pair of values, compiled, linked and booted for each board.
 * Overflow is allowed here; sizes are printed. `npm run options -- --witnesses` runs the first part only.
 */
import { isDeepStrictEqual } from 'node:util';
import { certain } from '@jolly/core/tree/certain';
import { buildFor, demoFacts, flashed, talkTo } from '../packages/firmware/test/fixtures/builtMachine';
import { compilerForTests } from '../packages/server/test/fixtures/compilerForTests';
import { onBoard, optionSets, withOptions } from '../packages/firmware/test/fixtures/optionSets';
import { witnesses } from '../packages/firmware/test/witnesses';
import { leavesOut, prove } from '../packages/firmware/test/witnesses/prove';

const plover = await demoFacts('plover');
const compiler = compilerForTests();

/** What is wrong with an option, or nothing. */
async function wrongWith(witness: (typeof witnesses)[number]): Promise<string | undefined> {
  const option = certain(
    plover.kit.options.find(({ key }) => key === witness.key),
    witness.key,
  );
  const { shows, bytes } = await prove(witness, compiler);
  if (isDeepStrictEqual(shows[0], shows[1])) return `${witness.values.join(' and ')} do the same`;
  if (leavesOut(option, witness) && bytes[0] >= bytes[1])
    return `off it takes ${bytes[0]} bytes, on ${bytes[1]}`;
  return undefined;
}

let failed = 0;
for (const witness of witnesses) {
  const wrong = await wrongWith(witness).catch((error: unknown) => String(error));
  if (wrong === undefined) continue;
  failed += 1;
  console.log(`FAILED  ${witness.key}: ${wrong}`);
}
console.log(`${failed} of ${witnesses.length} options failed`);

const sets = process.argv.includes('--witnesses') ? [] : optionSets(plover);
let setsFailed = 0;
for (const target of sets.length > 0 ? plover.kit.targets : []) {
  const facts = onBoard(plover, target);
  const sizes: number[] = [];
  for (const { name, set } of sets) {
    const mine = withOptions(facts, set);
    const outcome = await buildFor(mine, compiler);
    const why = 'failed' in outcome ? outcome.failed.message : undefined;
    const boots =
      why === undefined &&
      (await talkTo({ facts: mine, state: flashed(mine, outcome) })).heard[0]?.startsWith('awake');
    if (!('failed' in outcome)) sizes.push(outcome.sizes.flashBytes);
    if (boots) continue;
    setsFailed += 1;
    console.log(`FAILED  ${target.board} ${target.revision}, ${name}: ${why ?? 'it does not boot'}`);
  }
  console.log(
    `${target.board} ${target.revision}: ${sets.length} sets, ${Math.min(...sizes)} to ${Math.max(...sizes)} of ${facts.chip.flash_bytes} bytes`,
  );
}
compiler.close();
console.log(`${setsFailed} of ${sets.length * plover.kit.targets.length} sets failed`);
process.exitCode = failed + setsFailed > 0 ? 1 : 0;
