/**
 * Changes one thing in the sources at a time and looks whether a test notices: a seeded sample over the core, the session,
 * the server and the firmware. Prints what was killed and what survived; a survivor is a test that is missing, or code that
 * is not needed. `npm run mutants -- --count 60 --seed 1 --minutes 40`, in a copy of the checkout; nothing here is changed.
 */
import { execFileSync, spawnSync } from 'node:child_process';
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
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ts from 'typescript';

const root = join(import.meta.dirname, '..');
const option = (name: string, otherwise: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? otherwise : Number(process.argv[at + 1]);
};
const [count, seed, minutes] = [option('count', 60), option('seed', 1), option('minutes', 40)];
/** Longest that the tests of one mutant may take; one that never ends is killed, too. */
const LIMIT_S = 240;

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
    if (ts.isNumericLiteral(node)) note(node, String(Number(node.text) + 1));
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
    ({ 0: was, index }) => ({ file, at: index, was, becomes: SWAPPED[was] ?? String(Number(was) + 1) }),
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

const PLACES = [
  'packages/core/src/',
  'packages/session/src/',
  'packages/server/src/app/',
  'packages/server/src/api/',
  'packages/server/src/build/',
  'packages/server/src/sql/',
  'packages/firmware/lantern/',
];

/** A sample in which every place has its share. */
function sample(): Mutant[] {
  const files = execFileSync('git', ['ls-files', 'packages'], { cwd: root, encoding: 'utf8' }).split('\n');
  const random = numbers(seed);
  const byPlace = PLACES.map((place) =>
    files
      .filter((file) => file.startsWith(place) && /\.(ts|c)$/.test(file) && !file.endsWith('.d.ts'))
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

/** Runs the tests that rest on a file, in the copy. Of C, those of the firmware. */
function isNoticed(copy: string, file: string): boolean {
  const tests = file.endsWith('.c') ? ['run', 'packages/firmware'] : ['related', '--run', file];
  const { status } = spawnSync('npx', ['vitest', ...tests, '--bail', '1', '--silent'], {
    cwd: copy,
    timeout: LIMIT_S * 1000,
    stdio: 'ignore',
  });
  return status !== 0;
}

/** What is installed, with our own packages taken from the copy. */
function linkModules(into: string): void {
  const modules = join(into, 'node_modules');
  mkdirSync(join(modules, '@jolly'), { recursive: true });
  for (const name of readdirSync(join(root, 'node_modules')))
    if (name !== '@jolly' && !name.startsWith('.'))
      symlinkSync(join(root, 'node_modules', name), join(modules, name));
  for (const name of readdirSync(join(root, 'node_modules/@jolly')))
    symlinkSync(join(into, 'packages', name), join(modules, '@jolly', name));
}

/** Whether the tests of a file pass while nothing is changed: without that, a failure says nothing. */
const controls = new Map<string, boolean>();
function isQuiet(copy: string, file: string): boolean {
  const known = controls.get(file) ?? !isNoticed(copy, file);
  controls.set(file, known);
  return known;
}

const copy = mkdtempSync(join(tmpdir(), 'jolly-mutants-'));
const began = Date.now();
const survivors: string[] = [];
let tried = 0;
try {
  const left = new Set(['node_modules', '.git', 'data', 'test-results']);
  cpSync(root, copy, { recursive: true, filter: (from) => !left.has(from.slice(root.length + 1)) });
  linkModules(copy);
  for (const mutant of sample()) {
    if (Date.now() - began > minutes * 60_000) break;
    if (!isQuiet(copy, mutant.file)) {
      console.log(`UNTRIED  ${place(mutant)}  its tests fail while nothing is changed`);
      continue;
    }
    const original = readFileSync(join(root, mutant.file), 'utf8');
    const { at, was, becomes } = mutant;
    writeFileSync(join(copy, mutant.file), original.slice(0, at) + becomes + original.slice(at + was.length));
    const noticed = isNoticed(copy, mutant.file);
    writeFileSync(join(copy, mutant.file), original);
    tried += 1;
    const said = `${place(mutant)}  ${was} → ${becomes}`;
    console.log(`${noticed ? 'killed  ' : 'SURVIVED'} ${said}`);
    if (!noticed) survivors.push(said);
  }
} finally {
  rmSync(copy, { recursive: true, force: true });
}
const killed = tried - survivors.length;
console.log(
  `${killed} of ${tried} killed (${tried === 0 ? 0 : Math.round((100 * killed) / tried)} %), seed ${seed}, ${Math.round((Date.now() - began) / 60_000)} min`,
);
