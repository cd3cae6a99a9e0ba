/**
 * Prints the product's speed as ratios against a baseline measured in the same run: `npm run bench`, or some of it by name,
 * as `npm run bench -- --simulation` (the names stand in `main`; one that there is not is answered with all of them).
 * It is bundled first, as the product is: a runner that keeps function names would slow every closure.
 * Needs dist/ (made by ./jolly). Nothing here is a test; figures differ between machines, ratios less so.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Machine } from '@jolly/core/machine/machine';
import { applyEdits, overrideEdit } from '@jolly/core/machine/edit';
import { derive } from '@jolly/core/settings/derive';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { buildImage, compileTask, TOGETHER } from '../packages/server/src/build/buildImage';
import type { BuildInput } from '../packages/server/src/build/buildInput';
import { buildInput } from '../packages/server/src/build/buildInput';
import { type Unit, unitsOf } from '../packages/server/src/build/units';
import { type Compiler, startCompiler } from '../packages/server/src/build/compiler';
import { type ByteStore, folderStore } from '../packages/server/src/files/byteStore';
import { loadDemo } from '../packages/server/src/demo/demoFiles';
import { loadCatalogue, loadKitSources } from '../packages/server/src/files/catalogue';
import { paths } from '../packages/server/src/paths';
import { archivesBench } from './archives';
import { commitsBench } from './commits';
import { costsBench } from './costs';
import { ms, timed } from './figures';
import { fitBench } from './fit';
import { flashBench } from './flash';
import { harnessBench } from './harness';
import { recordBench } from './record';
import { settingsBench } from './settings';
import { simulationBench } from './simulation';
import { identifyBench, rippleBench } from './survey';
import { windowBench } from './window';

const root = join(import.meta.dirname, '..');
const scratch = mkdtempSync(join(tmpdir(), 'jolly-bench-'));
const signal = new AbortController().signal;
const say = (what: string, figure: string) => console.log(`${what.padEnd(58)} ${figure}`);
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

async function main(): Promise<void> {
  const catalogue = await loadCatalogue(root);
  const { machine: plover } = (await loadDemo(root)).find((each) => each.machine.id === 'plover')!;
  const factsOf = (machine: Machine): Facts => {
    const resolved = resolve(machine, catalogue);
    if ('problems' in resolved) throw new Error(resolved.problems[0]!.message);
    return resolved.facts;
  };

  const compiling = async (run: (compiler: Compiler) => Promise<void>) => {
    const compiler = startCompiler(paths(root, scratch).compilerWorker);
    await compiler.warm();
    await run(compiler).finally(() => compiler.close());
  };
  const measures: Readonly<Record<string, () => unknown>> = {
    'settings': () => settingsBench(plover, catalogue.kits[0]!, factsOf, say),
    'ripple': () => rippleBench(root, catalogue, factsOf, say),
    'harness': () => harnessBench(say),
    'flash': () => flashBench(catalogue, say),
    'fit': () => fitBench(say),
    'identify': () => identifyBench(catalogue, say),
    'commits': () => commitsBench(root, scratch, say),
    'archives': () => archivesBench(root, scratch, say),
    'record': () => recordBench(root, scratch, say),
    'builds': () => compiling((compiler) => builds(compiler, factsOf, plover)),
    'costs': () => compiling((compiler) => costsBench({ compiler, root, scratch, catalogue }, factsOf, plover, say)),
    'simulation': () => simulation(plover, factsOf),
    'start': firstAnswer,
    'window': () => windowBench(root, scratch),
  }; // prettier-ignore
  try {
    for (const name of wanted(Object.keys(measures))) await measures[name]!();
  } finally {
    rmSync(scratch, { recursive: true, force: true });
  }
}

/** Those asked for by `--NAME`; all of them where none is. */
function wanted(names: readonly string[]): readonly string[] {
  const asked = process.argv.slice(2).map((word) => word.replace(/^--/, ''));
  const unknown = asked.find((name) => !names.includes(name));
  if (unknown !== undefined) throw new Error(`there is no measure ${unknown}; there are ${names.join(', ')}`);
  return asked.length > 0 ? asked : names;
}

/** The compiler alone: the units asked for, as many at once as a build takes, then the link; nothing is hashed, cached or stored. */
async function bare(compiler: Compiler, input: BuildInput, asked: (unit: Unit) => boolean): Promise<number> {
  const objects: Record<string, Uint8Array> = {};
  const compile = async (units: Unit[]) => {
    const together = TOGETHER[input.effort];
    for (let from = 0; from < units.length; from += together) {
      const task = compileTask(units.slice(from, from + together), input.effort);
      const { failed, log, objects: made } = await compiler.compile(task, { owner: 'bench', signal });
      if (failed) throw new Error(log);
      Object.assign(objects, made);
    }
  };
  const units = unitsOf(input);
  await compile(units.filter((unit) => !asked(unit)));
  const { took } = await timed(async () => {
    await compile(units.filter(asked));
    await compiler.link(
      { objects, stackBytes: input.stackBytes, effort: input.effort, asked: 0 },
      { owner: 'bench', signal },
    );
  });
  return took;
}

async function builds(
  compiler: Compiler,
  factsOf: (machine: Machine) => Facts,
  plover: Machine,
): Promise<void> {
  const sources = await loadKitSources(root, 'lantern');
  const inputOf = (machine: Machine) => {
    const facts = factsOf(machine);
    return buildInput(facts, derive(facts), sources);
  };
  const build = (machine: Machine, cache: ByteStore) =>
    buildImage(inputOf(machine), { compiler, cache, owner: 'bench', signal, progress: () => undefined });
  const changed = (value: number) => applyEdits(plover, [overrideEdit('travel.z.max', value, 'bench')]);
  // The first use of each part of the compiler is slow in a new process; both sides are measured after it.
  const first = await timed(() => build(plover, folderStore(join(scratch, 'first'))));
  say('first cold build in a new process', ms(first.took));
  const cache = folderStore(join(scratch, 'objects'));
  const all = await bare(compiler, inputOf(plover), () => true);
  const cold = await timed(() => build(plover, cache));
  say(
    'cold build against the compiler alone',
    `${ms(cold.took)} / ${ms(all)} = ${(cold.took / all).toFixed(2)} (budget 1.2)`,
  );
  const ratios: number[] = [];
  let last = '';
  for (let i = 0; i < 5; i += 1) {
    const before = new Set(unitsOf(inputOf(plover)).map(({ key }) => key));
    const alone = await bare(compiler, inputOf(changed(230 + i)), ({ key }) => !before.has(key));
    const one = await timed(() => build(changed(240 + i), cache));
    ratios.push(one.took / alone);
    last = `${ms(one.took)} / ${ms(alone)}, ${'compiled' in one.result ? one.result.compiled : '?'} sources`;
  }
  say(
    'one setting against the compiler alone on what reads it',
    `${last}; median ${median(ratios).toFixed(2)} (budget 1.5)`,
  );
  const unchanged: number[] = [];
  for (let i = 0; i < 9; i += 1) unchanged.push((await timed(() => build(plover, cache))).took);
  say('unchanged build', `${ms(median(unchanged))}, ${ms(unchanged[0]!)} the first time (budget 20 ms)`);
}

async function simulation(plover: Machine, factsOf: (machine: Machine) => Facts): Promise<void> {
  const compiler = startCompiler(paths(root, scratch).compilerWorker);
  const sources = await loadKitSources(root, 'lantern');
  const build = async (facts: Facts) => {
    const outcome = await buildImage(buildInput(facts, derive(facts), sources), {
      compiler, cache: folderStore(join(scratch, 'objects')), owner: 'bench', signal, progress: () => undefined,
    }); // prettier-ignore
    if ('failed' in outcome) throw new Error(outcome.failed.message);
    return outcome.image;
  };
  await simulationBench(plover, factsOf, build, say);
  compiler.close();
}

/** From starting the installed product to its first answer: with a fresh data folder, then with an existing one. */
async function firstAnswer(): Promise<void> {
  for (const [what, budget] of [
    ['first start, new data', 3000],
    ['second start', 1500],
  ] as const) {
    const from = performance.now();
    const child = spawn(process.execPath, [join(root, 'dist/jolly.mjs'), 'demo', '--port', '0'], {
      env: { ...process.env, JOLLY_ROOT: root, JOLLY_DATA: join(scratch, 'data') },
    });
    const address = await new Promise<string>((resolve) =>
      child.stdout.on('data', (text: Buffer) => resolve(/http:\S+/.exec(String(text))?.[0] ?? '')),
    );
    await fetch(`${address}/api/machines`);
    say(`${what} to first answer`, `${ms(performance.now() - from)} (budget ${budget} ms)`);
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGTERM');
    await gone;
  }
}

await main();
