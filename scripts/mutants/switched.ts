import { relative } from 'node:path';
import ts from 'typescript';
import type { Plugin } from 'vite';
import { type Mutant, root } from './sites';

/** What stands where something can be changed: what was there, or what is tried instead. */
const choice = (id: number, becomes: string, was: string): string =>
  `(globalThis.__mutant?.(${id}) ? (${becomes}) : (${was}))`;

/**
 * Puts changes into sources as they are loaded, each behind a switch of its own, so that tests that were loaded once can
 * be run with any of them. A change is called by its place in the list.
 */
export function switched(mutants: readonly Mutant[]): Plugin {
  const byFile = new Map<string, Map<number, number>>();
  mutants.forEach(({ file, at }, id) => {
    const sites = byFile.get(file) ?? new Map<number, number>();
    byFile.set(file, sites.set(at, id));
  });
  return {
    name: 'mutants',
    enforce: 'pre',
    transform(code, path) {
      const sites = byFile.get(relative(root, path.replace(/\?.*$/, '')));
      return sites && { code: withChoices(code, path, sites, mutants), map: null };
    },
  };
}

function withChoices(
  code: string,
  path: string,
  sites: ReadonlyMap<number, number>,
  mutants: readonly Mutant[],
): string {
  const source = ts.createSourceFile(path, code, ts.ScriptTarget.Latest, true);
  const startOf = (node: ts.Node) => node.getStart(source);
  const idOf = (node: ts.Node) => sites.get(startOf(node));
  const becomes = (id: number) => mutants[id]?.becomes ?? '';

  /** A node as it is written, with what can be changed inside it behind its switch. */
  function written(node: ts.Node): string {
    if (ts.isBinaryExpression(node)) {
      const id = idOf(node.operatorToken);
      if (id !== undefined) {
        const [left, right] = [written(node.left), written(node.right)];
        return choice(id, `${left} ${becomes(id)} ${right}`, `${left} ${node.operatorToken.getText(source)} ${right}`); // prettier-ignore
      }
    }
    const isLeaf = ts.isNumericLiteral(node) || node.kind === ts.SyntaxKind.TrueKeyword || node.kind === ts.SyntaxKind.FalseKeyword; // prettier-ignore
    const id = isLeaf ? idOf(node) : undefined;
    if (id !== undefined) return choice(id, becomes(id), node.getText(source));
    let text = '';
    let at = startOf(node);
    ts.forEachChild(node, (child) => {
      text += code.slice(at, startOf(child)) + written(child);
      at = child.getEnd();
    });
    return text + code.slice(at, node.getEnd());
  }
  return code.slice(0, startOf(source)) + written(source);
}
