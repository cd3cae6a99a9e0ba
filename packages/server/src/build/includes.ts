/** Every header a source reads, directly or through others, out of the given files. */
export function includesOf(source: string, files: ReadonlyMap<string, string>): string[] {
  const found = new Set<string>();
  const visit = (path: string): void => {
    for (const [, name = ''] of (files.get(path) ?? '').matchAll(/^\s*#\s*include\s+"([^"]+)"/gm)) {
      if (found.has(name) || !files.has(name)) continue;
      found.add(name);
      visit(name);
    }
  };
  visit(source);
  return [...found].sort();
}
