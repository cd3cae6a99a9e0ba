/**
 * Prints the figures of the house: folders of the core in import circles (type imports counted), functions over 90
 * lines, non-null assertions and casts, over the sources of all packages. `npm run house`, or with `--list` for each place.
 */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import ts from 'typescript';

const LONG_FUNCTION = 90;
const CORE = 'packages/core/src/';

type Place = { file: string; line: number; what: string };

const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', 'packages'], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => /^packages\/[a-z]+\/src\/.*\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file));

const long: Place[] = [];
const nonNull: Place[] = [];
const casts: Place[] = [];
const edges = new Map<string, Set<string>>();

function folderOf(file: string): string {
  const inside = file.slice(CORE.length);
  return inside.includes('/') ? (inside.split('/')[0] ?? '') : '.';
}

function follow(file: string, specifier: string): void {
  if (!file.startsWith(CORE) || !specifier.startsWith('.')) return;
  const to = folderOf(normalize(join(dirname(file), specifier)));
  const from = folderOf(file);
  if (from === to || from === '.' || to === '.') return;
  edges.set(from, (edges.get(from) ?? new Set()).add(to));
}

function look(file: string): void {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
  const line = (at: number): number => source.getLineAndCharacterOfPosition(at).line + 1;
  const visit = (node: ts.Node): void => {
    const place = (what: string): Place => ({ file, line: line(node.getStart(source)), what });
    if (ts.isNonNullExpression(node)) nonNull.push(place(node.getText(source).slice(0, 60)));
    if (ts.isAsExpression(node) && node.type.getText(source) !== 'const')
      casts.push(place(node.type.getText(source).slice(0, 60)));
    if (ts.isFunctionLike(node) && 'body' in node && node.body) {
      const lines = line(node.getEnd()) - line(node.getStart(source)) + 1;
      if (lines > LONG_FUNCTION)
        long.push(place(`${node.name?.getText(source) ?? 'function'}, ${lines} lines`));
    }
    if ((ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) && node.moduleSpecifier)
      follow(file, (node.moduleSpecifier as ts.StringLiteral).text);
    ts.forEachChild(node, visit);
  };
  visit(source);
}

/** Folders that can reach themselves. */
function inCircles(): string[] {
  const reach = (start: string): Set<string> => {
    const seen = new Set<string>();
    const open = [...(edges.get(start) ?? [])];
    for (let folder = open.pop(); folder !== undefined; folder = open.pop()) {
      if (seen.has(folder)) continue;
      seen.add(folder);
      open.push(...(edges.get(folder) ?? []));
    }
    return seen;
  };
  return [...edges.keys()].filter((folder) => reach(folder).has(folder)).sort();
}

function print(name: string, places: Place[]): void {
  console.log(`${name}: ${places.length}`);
  if (process.argv.includes('--list'))
    for (const place of places) console.log(`  ${place.file}:${place.line} ${place.what}`);
}

files.forEach(look);
const circles = inCircles();
console.log(`core folders in circles: ${circles.length}${circles.length ? ` (${circles.join(', ')})` : ''}`);
print('functions over 90 lines', long);
print('non-null assertions', nonNull);
print('casts', casts);
