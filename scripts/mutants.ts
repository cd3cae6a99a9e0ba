/**
 * Changes one thing in the sources at a time and looks whether a test notices: a seeded sample over the core, the session,
 * the server, the firmware and the bench. Prints what was killed and what survived; a survivor is a test that is missing, or code that
 * is not needed. `npm run mutants -- --count 60 --seed 1 --minutes 40 --least 90`, in copies of the checkout, one for each
 * core; nothing here is changed.
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
import ts from 'typescript';

const root = join(import.meta.dirname, '..');
const word = (name: string): string => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? '' : (process.argv[at + 1] ?? '');
};
const option = (name: string, otherwise: number): number =>
  word(name) === '' ? otherwise : Number(word(name));
const [count, seed, minutes] = [option('count', 60), option('seed', 1), option('minutes', 40)];
/** Fewer killed, in percent, and the command fails. */
const least = option('least', 0);
/**
 * What does not end in this time hangs, and is told apart: no test said that it is wrong. The slowest tests, those of the
 * firmware one file after another, take a third of it.
 */
const LIMIT_S = 900;

interface Mutant {
  file: string;
  at: number;
  was: string;
  becomes: string;
}

const SWAPPED: Readonly<Record<string, string>> = {
  '<': '<=', '<=': '<', '>': '>=', '>=': '>', '===': '!==', '!==': '===', '==': '!=', '!=': '==',
  '&&': '||', '||': '&&', '+': '-', '-': '+', '*': '/', '/': '*', true: 'false', false: 'true',
}; // prettier-ignore

/** Another number: one more, or twice as much where one more would hardly be another. */
const another = (number: string): string =>
  String(Number(number) < 10 ? Number(number) + 1 : Number(number) * 2);

/** Everything that could be changed in a TypeScript file: operators, flags and whole numbers. */
function inTypeScript(file: string): Mutant[] {
  const source = ts.createSourceFile(
    file,
    readFileSync(join(root, file), 'utf8'),
    ts.ScriptTarget.Latest,
    true,
  );
  const found: Mutant[] = [];
  const note = (node: ts.Node, becomes: string) =>
    found.push({ file, at: node.getStart(source), was: node.getText(source), becomes });
  const visit = (node: ts.Node): void => {
    // Types, imports and what is told in words decide nothing.
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const becomes = SWAPPED[node.operatorToken.getText(source)];
      const joinsText = [node.left, node.right].some(
        (side) => ts.isStringLiteral(side) || ts.isTemplateExpression(side),
      );
      if (becomes && !joinsText) note(node.operatorToken, becomes);
    }
    if (node.kind === ts.SyntaxKind.TrueKeyword || node.kind === ts.SyntaxKind.FalseKeyword)
      note(node, SWAPPED[node.getText(source)] ?? '');
    if (ts.isNumericLiteral(node)) note(node, another(node.text));
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** The same for C, by its operators between blanks and its whole numbers. */
function inC(file: string): Mutant[] {
  const text = readFileSync(join(root, file), 'utf8');
  const code = text.replace(/\/\*[\s\S]*?\*\/|\/\/.*|^#.*|"(?:\\.|[^"\\])*"/gm, (part) =>
    ' '.repeat(part.length),
  );
  return [...code.matchAll(/(?<= )(?:<=?|>=?|==|!=|&&|\|\||[+*/-])(?= )|(?<![\w.])\d+(?![\w.])/g)].map(
    ({ 0: was, index }) => ({ file, at: index, was, becomes: SWAPPED[was] ?? another(was) }),
  );
}

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

/** Start what was built before, which is not built anew. */
const BUILT = '**/{dataFolder,commandLine}.test.ts';
/** These too, and those that take minutes each. */
const APART = '**/{dataFolder,commandLine,trust,fit,effort,optionSets}.test.ts';

/**
 * Which tests could notice a change: those of `first`, then all; with `related` only those that import what was changed,
 * and in the end those that run it on a board or a server, where it has not been noticed before.
 */
const TESTS: readonly { of: RegExp; first?: string[]; all: string[]; last?: string[]; related: boolean }[] = [
  // Lantern and the bench are proven on each other.
  {
    of: /\.c$|^packages\/bench\//,
    // Notice most of what changes, in a tenth of the time.
    first: ['packages/firmware/test/lives.test.ts', 'packages/firmware/test/cards.test.ts', 'packages/bench'],
    all: ['packages/firmware', 'packages/bench', '--exclude', '**/trust.test.ts'],
    related: false,
  },
  {
    of: /^packages\/server\//,
    all: ['--project', 'running', '--exclude', BUILT, '--dir', 'packages/server'],
    related: false,
  },
  {
    of: /./,
    all: ['--project', 'calculating'],
    last: ['--project', 'running', '--exclude', APART],
    related: true,
  },
];
const testsOf = (file: string) => TESTS.findIndex(({ of }) => of.test(file));

type Answer = 'passed' | 'failed' | 'never ended';

/** Runs tests in a copy, one file after another, until one fails. */
function answerOf(copy: string, args: string[]): Promise<Answer> {
  const run = spawn('npx', ['vitest', ...args, '--bail', '1', '--maxWorkers', '1', '--silent'], {
    cwd: copy,
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

async function answerFor(copy: string, file: string): Promise<Answer> {
  const { first, all, last, related } = TESTS[testsOf(file)] ?? { all: [], related: false };
  for (const args of [first, all, last]) {
    if (args === undefined) continue;
    const answer = await answerOf(copy, related ? ['related', '--run', file, ...args] : ['run', ...args]);
    if (answer !== 'passed') return answer;
  }
  return 'passed';
}

/** A copy of the checkout, with what is installed, and our own packages taken from the copy. */
function makeCopy(): string {
  const copy = mkdtempSync(join(tmpdir(), 'jolly-mutants-'));
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

const copies = Array.from({ length: Math.max(1, availableParallelism()) }, makeCopy);
const began = Date.now();
const timeIsUp = () => Date.now() - began > minutes * 60_000;
const results: Answer[] = [];

/** Tests that fail while nothing is changed would kill everything. With `--passed` they passed a moment ago. */
async function refuseBroken(mutants: Mutant[]): Promise<void> {
  const broken: string[] = [];
  await inCopies([...new Set(mutants.map(({ file }) => testsOf(file)))], async (copy, kind) => {
    const args = TESTS[kind]?.all ?? [];
    if ((await answerOf(copy, ['run', ...args])) !== 'passed') broken.push(args.join(' '));
  });
  if (broken.length > 0) throw new Error(`tests fail while nothing is changed: ${broken.join('; ')}`);
}

/** Does things one after another in each copy, until none is left. */
const inCopies = <T>(things: T[], act: (copy: string, thing: T) => Promise<void>) =>
  Promise.all(
    copies.map(async (copy) => {
      for (let thing = things.shift(); thing !== undefined; thing = things.shift()) await act(copy, thing);
    }),
  );

const SAID: Readonly<Record<Answer, string>> = {
  passed: 'SURVIVED',
  failed: 'killed  ',
  'never ended': 'HANGS   ',
};

async function tryOne(copy: string, mutant: Mutant): Promise<void> {
  if (timeIsUp()) return;
  const { file, at, was, becomes } = mutant;
  const original = readFileSync(join(copy, file), 'utf8');
  writeFileSync(join(copy, file), original.slice(0, at) + becomes + original.slice(at + was.length));
  const answer = await answerFor(copy, file);
  writeFileSync(join(copy, file), original);
  console.log(`${SAID[answer]} ${place(mutant)}  ${was} → ${becomes}`);
  results.push(answer);
}

try {
  const mutants = sample();
  if (!process.argv.includes('--passed')) await refuseBroken(mutants);
  await inCopies(mutants, tryOne);
} finally {
  for (const copy of copies) rmSync(copy, { recursive: true, force: true });
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
