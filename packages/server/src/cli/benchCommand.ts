import { readFileSync } from 'node:fs';
import { createInterface } from 'node:readline/promises';
import { BadLine, carryOut, rigOf, type RigEvent } from '@jolly/bench';
import { derive } from '@jolly/core/settings/derive';
import { fitFindings } from '@jolly/core/build/fitFindings';
import { stopping } from '@jolly/core/finding/stopping';
import type { Facts } from '@jolly/core/machine/facts';
import { isFilled } from '@jolly/core/tree/filled';
import { buildImage } from '../build/buildImage';
import { buildInput } from '../build/buildInput';
import { startCompiler } from '../build/compiler';
import { folderStore } from '../files/byteStore';
import { loadKitSources } from '../files/catalogue';
import { paths } from '../paths';
import { badInput, type Call, type Command, EXIT, JSON_FLAG } from './command';
import { readMachine } from './readMachine';

export const benchCommand: Command = {
  does: 'the virtual machine of a machine file; lines from standard input',
  takes: ['FILE'],
  options: { seed: { value: 'N', help: 'another machine of the same kind: a whole number from 0' }, json: JSON_FLAG },
  more: 'It builds, flashes and powers the machine and carries out each line. It ends with 1 when the board stopped itself.',
  run: bench,
}; // prettier-ignore

async function bench({ words, value, has, root, data }: Call): Promise<number> {
  const seed = Number(value('seed') ?? 1);
  if (!Number.isInteger(seed) || seed < 0) return badInput('--seed must be a whole number from 0');
  if (words[0] === '-') return badInput('bench: standard input holds the lines for the board; name a machine file'); // prettier-ignore
  const facts = await readMachine(root, words[0] ?? '');
  const built = await imageFor(facts, root, data);
  if ('why' in built) return badInput(`the image cannot be built: ${built.why}`);

  const tell = (event: RigEvent) => console.log(has('json') ? JSON.stringify(event) : inWords(event));
  const rig = rigOf(facts, built.image, seed, tell, (path) => readFileSync(path));
  await rig.power(true);
  rig.wait(BOOTED_S);
  let number = 0;
  for await (const line of createInterface({ input: process.stdin })) {
    number += 1;
    try {
      await carryOut(rig, line, () => tell({ t: rig.nowS(), truth: rig.truth() }));
    } catch (error) {
      if (error instanceof BadLine) return badInput(`line ${number}: ${error.message}`);
      throw error;
    }
  }
  return rig.stoppedItself() ? EXIT.stopped : EXIT.fine;
}

/** Until then a board has said who it is. */
const BOOTED_S = 0.2;

async function imageFor(
  facts: Facts,
  root: string,
  data: string,
): Promise<{ image: Uint8Array } | { why: string }> {
  const at = paths(root, data);
  const compiler = startCompiler(at.compilerWorker);
  const outcome = await buildImage(
    buildInput(facts, derive(facts), await loadKitSources(root, facts.kit.id)),
    {
      compiler,
      cache: folderStore(at.objects),
      owner: facts.machine.id,
      signal: new AbortController().signal,
      progress: () => undefined,
    },
  ).finally(() => compiler.close());
  if ('failed' in outcome) return { why: outcome.failed.message };
  const over = stopping(fitFindings(outcome.sizes, facts.chip));
  return isFilled(over) ? { why: over[0].what } : { image: outcome.image };
}

function inWords(event: RigEvent): string {
  const at = `t=${event.t.toFixed(3)}`;
  if ('reply' in event) return `${at} < ${event.reply}`;
  return 'notice' in event ? `${at} ! ${event.notice}` : `${at} = ${JSON.stringify(event.truth)}`;
}
