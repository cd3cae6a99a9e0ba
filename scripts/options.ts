/**
 * Compiles, links and boots Lantern with the largest set of options, with all of them off, and with sets that hold every
 * pair of values, for each board the kit knows: `npm run options`. Overflow is allowed here; sizes are printed.
 */
import {
  buildFor,
  compilerForTests,
  demoFacts,
  flashed,
  talkTo,
} from '../packages/firmware/test/fixtures/builtMachine';
import { onBoard, optionSets, withOptions } from '../packages/firmware/test/fixtures/optionSets';

const plover = await demoFacts('plover');
const compiler = compilerForTests();
const sets = optionSets(plover);
let failed = 0;
for (const target of plover.kit.targets) {
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
    failed += 1;
    console.log(`FAILED  ${target.board} ${target.revision}, ${name}: ${why ?? 'it does not boot'}`);
  }
  console.log(
    `${target.board} ${target.revision}: ${sets.length} sets, ${Math.min(...sizes)} to ${Math.max(...sizes)} of ${facts.chip.flash_bytes} bytes`,
  );
}
compiler.close();
console.log(`${failed} of ${sets.length * plover.kit.targets.length} failed`);
process.exitCode = failed > 0 ? 1 : 0;
