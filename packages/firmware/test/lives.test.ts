import { createHash } from 'node:crypto';
import { carryOut, type RigEvent, rigOf, type Truth } from '@jolly/bench';
import { expect, it } from 'vitest';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { type Built, builtDemo } from './fixtures/builtMachine';
import { CARD_FILES } from './fixtures/cardFiles';
import { LIVES } from './fixtures/lives';

const compiler = compilerForTests();

/** Every figure of how a machine really is, by its place. */
function flat(truth: Truth): Map<string, string> {
  const found = new Map<string, string>();
  const visit = (value: unknown, path: string) => {
    if (typeof value === 'object' && value !== null)
      for (const [key, inner] of Object.entries(value)) visit(inner, path ? `${path}.${key}` : key);
    else found.set(path, typeof value === 'number' ? String(Number(value.toPrecision(6))) : String(value));
  };
  visit(truth, '');
  return found;
}

/** What is told each second while something goes on, folded: how often, and a sum that another word would change. */
function folded(lines: readonly string[]): string[] {
  const told: string[] = [];
  let meanwhile: string[] = [];
  for (const line of [...lines, '']) {
    if (line.includes(' < meanwhile ')) {
      meanwhile.push(line);
      continue;
    }
    if (meanwhile.length > 0) {
      const sum = createHash('sha256').update(meanwhile.join('\n')).digest('hex').slice(0, 8);
      told.push(`    meanwhile, ${meanwhile.length} lines ${sum}`);
      meanwhile = [];
    }
    told.push(line);
  }
  return told;
}

/** What is heard of the board and what changes at the machine, line by line. */
async function lived({ facts, image }: Built, does: string): Promise<string> {
  const said: string[] = [];
  const hear = (event: RigEvent) => {
    // Which image it is, is not what it does.
    if ('reply' in event) said.push(`${event.t.toFixed(4)} < ${event.reply.replace(/ build=\w+/, '')}`);
    else if ('notice' in event) said.push(`${event.t.toFixed(4)} ! ${event.notice}`);
  };
  const rig = rigOf(facts, image, 7, hear, (name) => new TextEncoder().encode(CARD_FILES[name]));
  let before = new Map<string, string>();
  for (const line of ['@power on', '@wait 0.2', ...does.split('|')]) {
    said.push(`> ${line}`);
    await carryOut(rig, line, () => undefined).catch((error: Error) =>
      said.push(`refused: ${error.message}`),
    );
    const now = flat(rig.truth());
    const changed = [...now].filter(([path, value]) => before.get(path) !== value);
    said.push(...changed.map(([path, value]) => `    ${path} ${value}`));
    before = now;
  }
  return folded(said).join('\n');
}

it.each(LIVES)(
  'the life of $name is what it was before (vitest -u writes it anew; read what has changed)',
  async ({ name, machine, edits, does }) => {
    const built = await builtDemo(machine, edits, compiler);
    await expect(await lived(built, does)).toMatchFileSnapshot(`lives/${name.replaceAll(/\W+/g, '-')}.txt`);
  },
);
