import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { check } from '@jolly/core/checks/checks';
import { stopping } from '@jolly/core/finding/stopping';
import { derive } from '@jolly/core/settings/derive';
import { fitFindings } from '@jolly/core/build/fitFindings';
import { textOf } from '@jolly/core/build/generatedFile';
import { buildImage, type BuildOutcome } from '../build/buildImage';
import { buildInput } from '../build/buildInput';
import { startCompiler } from '../build/compiler';
import { folderStore } from '../files/byteStore';
import { loadKitSources } from '../files/catalogue';
import { paths } from '../paths';
import { badInput, type Call, type Command, EXIT, JSON_FLAG } from './command';
import { readMachine } from './readMachine';

export const buildCommand: Command = {
  does: 'firmware files, image, sizes and log',
  takes: ['FILE'],
  options: { out: { value: 'DIR', help: 'the folder to write to; it is made' }, json: JSON_FLAG },
  run: build,
};

/** Writes the firmware files, and the image with its sizes and log where it builds. */
async function build({ words, value, has, root, data }: Call): Promise<number> {
  const out = value('out') ?? badInput('build needs --out DIR, the folder to write to');
  const facts = await readMachine(root, words[0] ?? '');
  const settings = derive(facts);
  const stops = stopping(check(facts, settings));
  const tell = (result: Record<string, unknown>, lines: string[]) =>
    console.log(has('json') ? JSON.stringify(result) : lines.join('\n'));
  if (stops.length > 0) {
    tell(
      { stopped: stops },
      stops.map((stop) => `STOP  ${stop.id}: ${stop.what} ${stop.why}`),
    );
    return EXIT.stopped;
  }

  const at = paths(root, data);
  const input = buildInput(facts, settings, await loadKitSources(root, facts.kit.id));
  // A folder that cannot be written is said before a minute of compiling.
  await mkdir(out, { recursive: true });
  const compiler = startCompiler(at.compilerWorker);
  const progress = ({ done, total, doing }: { done: number; total: number; doing: string }) =>
    void (has('json') || console.error(`${done}/${total} ${doing}`));
  const outcome = await buildImage(input, {
    compiler,
    cache: folderStore(at.objects),
    owner: facts.machine.id,
    signal: new AbortController().signal,
    progress,
  }).finally(() => compiler.close());

  for (const file of input.generated) await writeFile(join(out, file.path), textOf(file));
  await writeFile(join(out, 'build.log'), outcome.log);
  return finish(outcome, out, facts.machine.id, facts.chip, tell);
}

async function finish(
  outcome: BuildOutcome,
  out: string,
  name: string,
  chip: Parameters<typeof fitFindings>[1],
  tell: (result: Record<string, unknown>, lines: string[]) => void,
): Promise<number> {
  if ('failed' in outcome) {
    const { file, line, message, key } = outcome.failed;
    tell({ failed: outcome.failed }, [
      `FAILED  ${file}:${line}: ${message}${key ? ` (setting ${key})` : ''}`,
    ]);
    return EXIT.stopped;
  }
  const imagePath = join(out, `${name}.bin`);
  await writeFile(imagePath, outcome.image);
  const { buildId, sizes } = outcome;
  const fit = fitFindings(sizes, chip);
  tell({ image: imagePath, buildId, sizes, findings: fit }, [
    `${imagePath}: build ${buildId}`,
    `flash ${sizes.flashBytes} of ${chip.flash_bytes} bytes, RAM ${sizes.ramBytes} of ${chip.ram_bytes} bytes`,
    ...fit.map((finding) => `${finding.severity.toUpperCase()}  ${finding.id}: ${finding.what}`),
  ]);
  return fit.some((finding) => finding.severity === 'stop') ? EXIT.stopped : EXIT.fine;
}
