import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

export const root = join(import.meta.dirname, '../..');

/** One thing that is changed in the sources. */
export interface Mutant {
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
export function inTypeScript(file: string): Mutant[] {
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
    // Types, imports and what is told in words decide nothing; names are none to be changed.
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isNumericLiteral(node) && ts.isPropertyAssignment(node.parent) && node.parent.name === node)
      return;
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
export function inC(file: string): Mutant[] {
  const text = readFileSync(join(root, file), 'utf8');
  const code = text.replace(/\/\*[\s\S]*?\*\/|\/\/.*|^#.*|"(?:\\.|[^"\\])*"/gm, (part) =>
    ' '.repeat(part.length),
  );
  return [...code.matchAll(/(?<= )(?:<=?|>=?|==|!=|&&|\|\||[+*/-])(?= )|(?<![\w.])\d+(?![\w.])/g)].map(
    ({ 0: was, index }) => ({ file, at: index, was, becomes: SWAPPED[was] ?? another(was) }),
  );
}
