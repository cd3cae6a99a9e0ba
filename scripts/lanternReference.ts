/**
 * Writes packages/firmware/REFERENCE.md: what Lantern can be told, what it says when it refuses, and what each option takes.
 * `npm run reference` builds every option on and off for two boards, which takes some minutes.
 */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Option } from '@jolly/core/kit/kit';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { certain } from '@jolly/core/tree/certain';
import { buildFor, demoFacts, own, root } from '../packages/firmware/test/fixtures/builtMachine';
import { compilerForTests } from '../packages/server/test/fixtures/compilerForTests';
import { onBoard } from '../packages/firmware/test/fixtures/optionSets';
import { commandTable, messageTable } from '../packages/firmware/test/fixtures/reference';
import { witnesses } from '../packages/firmware/test/witnesses';

const BOARDS = ['alder-a32', 'fenwick-f8'];

const plover = await demoFacts('plover');
const compiler = compilerForTests();

/** Bytes of an image with a value of an option, on a board; with what its witness stands with. */
async function bytesOf(key: string, value: SettingValue, board: string): Promise<string> {
  // What only the compiler reads has none, and needs nothing.
  const witness = witnesses.find((entry) => entry.key === key);
  const facts = await demoFacts(witness?.machine ?? 'plover', ...(witness?.with ?? []), own(key, value));
  const target = certain(
    plover.kit.targets.find((entry) => entry.board === board),
    board,
  );
  const outcome = await buildFor(onBoard(facts, target), compiler);
  return 'failed' in outcome ? 'refused' : String(outcome.sizes.flashBytes);
}

/** The values of an option that decide what is compiled. */
const valuesOf = (option: Option): SettingValue[] =>
  option.kind === 'flag' ? [false, true] : option.kind === 'choice' ? [...option.choices] : [];

const rows: string[] = [];
for (const option of plover.kit.options) {
  const values = valuesOf(option).slice(0, 4);
  if (values.length === 0 || option.from !== undefined) continue;
  const sizes = await Promise.all(
    BOARDS.map(async (board) => {
      const bytes: string[] = [];
      for (const value of values) bytes.push(await bytesOf(option.key, value, board));
      return bytes.join(' / ');
    }),
  );
  rows.push(`| \`${option.key}\` | ${values.map(String).join(' / ')} | ${sizes.join(' | ')} |`);
}
compiler.close();

writeFileSync(
  join(root, 'packages/firmware/REFERENCE.md'),
  `# Lantern ${plover.kit.version}: reference

Made by \`npm run reference\` out of kit.yaml and of built images; do not edit. What the words mean is in README.md.

## Commands

${commandTable(plover.kit)}

## Messages

With short replies (\`reply.long\` off) the board says the number only.

${messageTable(plover.kit)}

## What each option takes

Bytes of the whole image for each value, everything else as Plover has it (and as the option's witness needs it); pins are made up where a board has none. A value that the image guards against is refused.

| option | values | Alder A32 | Fenwick F8 |
|---|---|---|---|
${rows.join('\n')}
`,
);
