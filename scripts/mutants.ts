/**
 * Changes one thing in the sources at a time and looks whether a test notices: a seeded sample over the core, the session,
 * the server, the firmware and the bench. Prints what was killed and what survived; a survivor is a test that is missing, or code that
 * is not needed. `npm run mutants -- --count 60 --seed 1 --minutes 40 --least 90`; nothing here is changed. What is changed
 * in TypeScript stands behind switches while the tests run once; then each is tried with the tests that came by it. What is
 * changed in C is built in copies of the checkout, one for each core.
 */
import { execFileSync, spawn } from 'node:child_process';
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { inC, inTypeScript, type Mutant, root } from './mutants/sites';

const word = (name: string): string => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? '' : (process.argv[at + 1] ?? '');
};
const option = (name: string, otherwise: number): number =>
  word(name) === '' ? otherwise : Number(word(name));
const [count, seed, minutes] = [option('count', 60), option('seed', 1), option('minutes', 40)];
/** Whether only the tests that calculate are asked: what runs on a board or a server notices more, and takes minutes each. */
const onlyCalculating = process.argv.includes('--calculating');
/** Fewer killed, in percent, and the command fails. */
const least = option('least', 0);
/**
 * What does not end in this time hangs, and is told apart: no test said that it is wrong. The slowest tests, those of the
 * firmware one file after another, take a third of it.
 */
const LIMIT_S = 900;

/** Numbers from 0 to 1 that are the same for the same seed. */
function numbers(from: number): () => number {
  let state = from >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

/** Where changes are made: all of it, or with `--in core,session` those that hold one of the words. */
const PLACES = [
  'packages/core/src/',
  'packages/session/src/',
  'packages/server/src/',
  'packages/firmware/lantern/',
  'packages/bench/src/',
].filter((place) =>
  word('in')
    .split(',')
    .some((part) => place.includes(part)),
);

/** What only runs when it was built, or in a process of its own. */
const isElsewhere = (file: string) =>
  /^packages\/server\/src\/(cli|data|demo)\/|Worker\.ts$|server\/src\/(index|start)\.ts$/.test(file);

/** A sample in which every place has its share. */
function sample(): Mutant[] {
  const files = execFileSync('git', ['ls-files', 'packages'], { cwd: root, encoding: 'utf8' }).split('\n');
  const random = numbers(seed);
  const byPlace = PLACES.map((place) =>
    files
      .filter(
        (file) =>
          file.startsWith(place) && /\.(ts|c)$/.test(file) && !file.endsWith('.d.ts') && !isElsewhere(file),
      )
      .flatMap((file) => (file.endsWith('.c') ? inC(file) : inTypeScript(file))),
  );
  const chosen: Mutant[] = [];
  for (let turn = 0; chosen.length < count; turn += 1) {
    const sites = byPlace[turn % byPlace.length] ?? [];
    const [mutant] = sites.splice(Math.floor(random() * sites.length), 1);
    if (mutant) chosen.push(mutant);
    else if (byPlace.every((left) => left.length === 0)) break;
  }
  return chosen;
}

const place = ({ file, at }: Mutant) =>
  `${file}:${readFileSync(join(root, file), 'utf8').slice(0, at).split('\n').length}`;

type Answer = 'passed' | 'failed' | 'never ended';

/** Runs tests, one file after another, until one fails. */
function answerOf(cwd: string, args: string[], env: Record<string, string> = {}): Promise<Answer> {
  const run = spawn('npx', ['vitest', ...args, '--bail', '1', '--maxWorkers', '1', '--silent'], {
    cwd,
    // Nothing that was said before is written anew.
    env: { ...process.env, CI: 'true', ...env },
    stdio: 'ignore',
    detached: true,
  });
  let late = false;
  const timer = setTimeout(() => {
    late = true;
    if (run.pid !== undefined) process.kill(-run.pid, 'SIGKILL');
  }, LIMIT_S * 1000);
  return new Promise((done) => {
    run.on('exit', (code) => {
      clearTimeout(timer);
      done(late ? 'never ended' : code === 0 ? 'passed' : 'failed');
    });
  });
}

const scratch = mkdtempSync(join(tmpdir(), 'jolly-mutants-'));
const began = Date.now();
const timeIsUp = () => Date.now() - began > minutes * 60_000;
const results: Answer[] = [];

const SAID: Readonly<Record<Answer, string>> = {
  passed: 'SURVIVED',
  failed: 'killed  ',
  'never ended': 'HANGS   ',
};

function tell(mutant: Mutant, answer: Answer): void {
  console.log(`${SAID[answer]} ${place(mutant)}  ${mutant.was} → ${mutant.becomes}`);
  results.push(answer);
}

/** Does things one after another on each core, until none is left. */
const inLanes = <T, L>(lanes: readonly L[], things: T[], act: (lane: L, thing: T) => Promise<void>) =>
  Promise.all(
    lanes.map(async (lane) => {
      for (let thing = things.shift(); thing !== undefined; thing = things.shift()) await act(lane, thing);
    }),
  );
const CORES = Array.from({ length: Math.max(1, availableParallelism()) }, (_, core) => core);

const SWITCHED = join(import.meta.dirname, 'mutants/vitest.config.ts');
const CALCULATING = ['--project', 'calculating'];
/** Those that run a board or a server, without those that start what was built before and those that take minutes each. */
const RUNNING = [
  '--project',
  'running',
  '--exclude',
  '**/{dataFolder,commandLine,trust,fit,effort,optionSets}.test.ts',
];

/** Which test files come by which changes, as far as they only calculate; each by itself, for what one met is remembered. */
async function filesByMutant(list: string): Promise<Map<number, string[]>> {
  const hits = mkdtempSync(join(scratch, 'hits-'));
  const run = spawn('npx', ['vitest', 'run', '--config', SWITCHED, ...CALCULATING, '--isolate', '--silent'], {
    cwd: root,
    env: { ...process.env, CI: 'true', MUTANTS: list, MUTANT_HITS: hits },
    stdio: 'ignore',
  });
  // Tests that fail while nothing is changed would kill everything.
  if ((await new Promise((done) => run.on('exit', done))) !== 0)
    throw new Error('tests fail while nothing is changed');
  const found = new Map<number, string[]>();
  for (const name of readdirSync(hits)) {
    // Written by mutants/watching.ts.
    const { file, ids } = JSON.parse(readFileSync(join(hits, name), 'utf8')) as {
      file: string;
      ids: number[];
    };
    for (const id of ids) found.set(id, [...(found.get(id) ?? []), file]);
  }
  return found;
}

/** So many changes are worth a look at which test comes by which, which takes minutes. */
const WORTH_A_LOOK = 20;

/**
 * Tries changes in TypeScript with the tests that come by them, or that import them where nobody looked, then with those
 * that run a board or a server.
 */
async function trySwitched(mutants: readonly Mutant[]): Promise<void> {
  if (mutants.length === 0) return;
  const list = join(scratch, 'mutants.json');
  writeFileSync(list, JSON.stringify(mutants));
  const met = mutants.length < WORTH_A_LOOK ? undefined : await filesByMutant(list);
  await inLanes(CORES, [...mutants.entries()], async (_, [id, mutant]) => {
    if (timeIsUp()) return;
    const importing = ['related', '--run', mutant.file];
    const meeting = met ? ['run', ...(met.get(id) ?? [])] : importing;
    const tests = [
      ...(meeting.length > 1 ? [[...meeting, ...CALCULATING]] : []),
      ...(onlyCalculating ? [] : [[...importing, ...RUNNING]]),
    ];
    let answer: Answer = 'passed';
    for (const args of tests)
      if (answer === 'passed') answer = await answerOf(root, [...args, '--config', SWITCHED], { MUTANTS: list, MUTANT: `${id}` });
    tell(mutant, answer);
  });
} // prettier-ignore

/** Which tests notice a change in C, dearest last: Lantern and the bench are proven on each other. */
const OF_C = [
  ['packages/firmware/test/lives.test.ts', 'packages/firmware/test/cards.test.ts', 'packages/bench'],
  ['packages/firmware', 'packages/bench', '--exclude', '**/trust.test.ts'],
];

/** A copy of the checkout, with what is installed, and our own packages taken from the copy. */
function makeCopy(): string {
  const copy = mkdtempSync(join(scratch, 'copy-'));
  const left = new Set(['node_modules', '.git', 'data', 'test-results']);
  cpSync(root, copy, { recursive: true, filter: (from) => !left.has(from.slice(root.length + 1)) });
  const modules = join(copy, 'node_modules');
  mkdirSync(join(modules, '@jolly'), { recursive: true });
  for (const name of readdirSync(join(root, 'node_modules')))
    if (name !== '@jolly' && (name === '.bin' || !name.startsWith('.')))
      symlinkSync(join(root, 'node_modules', name), join(modules, name));
  for (const name of readdirSync(join(root, 'node_modules/@jolly')))
    symlinkSync(join(copy, 'packages', name), join(modules, '@jolly', name));
  return copy;
}

/** Tries changes in C, each built in a copy, with the tests that run it on a board. */
async function tryBuilt(mutants: Mutant[]): Promise<void> {
  if (mutants.length === 0 || onlyCalculating) return;
  const copies = CORES.map(makeCopy);
  if (!process.argv.includes('--passed') && (await answerOf(root, ['run', ...(OF_C[1] ?? [])])) !== 'passed')
    throw new Error('tests of the firmware fail while nothing is changed');
  await inLanes(copies, mutants, async (copy, mutant) => {
    if (timeIsUp()) return;
    const { file, at, was, becomes } = mutant;
    const original = readFileSync(join(copy, file), 'utf8');
    writeFileSync(join(copy, file), original.slice(0, at) + becomes + original.slice(at + was.length));
    let answer: Answer = 'passed';
    for (const args of OF_C) if (answer === 'passed') answer = await answerOf(copy, ['run', ...args]);
    writeFileSync(join(copy, file), original);
    tell(mutant, answer);
  });
}

try {
  const mutants = sample();
  await trySwitched(mutants.filter(({ file }) => !file.endsWith('.c')));
  await tryBuilt(mutants.filter(({ file }) => file.endsWith('.c')));
} finally {
  rmSync(scratch, { recursive: true, force: true });
}
const all = results.length;
const counted = (answer: Answer) => results.filter((each) => each === answer).length;
const noticed = all - counted('passed');
const percent = all === 0 ? 0 : (100 * noticed) / all;
const hanging = counted('never ended');
console.log(
  `${noticed} of ${all} killed (${percent.toFixed(0)} %)${hanging > 0 ? `, ${hanging} of them by hanging` : ''}, seed ${seed}, ${((Date.now() - began) / 60_000).toFixed(1)} min`,
);
if (percent < least) process.exitCode = 1;
