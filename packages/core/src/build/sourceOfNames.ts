/** A function or a variable at the beginning of a line, as C of the kits is written. */
const DEFINED =
  /^(?!typedef|return|#)(?:[A-Za-z_][\w ]*[ *])([A-Za-z_]\w*)(?:\[[^\]]*\])*(?: = |;|\([^;{}]*\)\s*\{)/gm;

/**
 * Which source defines a name: of functions and of variables that stand at the beginning of a line. A name that several
 * sources define is left out.
 */
export function sourceOfNames(sources: ReadonlyMap<string, string>): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  const shared = new Set<string>();
  for (const [path, text] of sources) {
    if (!path.endsWith('.c')) continue;
    for (const [, name = ''] of text.matchAll(DEFINED)) {
      if (found.has(name) && found.get(name) !== path) shared.add(name);
      found.set(name, path);
    }
  }
  for (const name of shared) found.delete(name);
  return found;
}
