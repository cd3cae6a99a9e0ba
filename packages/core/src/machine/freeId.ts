/** Letters that plain ones stand for, once their marks are off. */
const SPELT: Readonly<Record<string, string>> = { ß: 'ss', æ: 'ae', ø: 'o', ł: 'l' };
const LONGEST_ID = 40;

/** An id out of a name, that none of the ids taken is: "Knot 2" is `knot-2`, the next one `knot-2-2`. */
export function freeId(name: string, taken: ReadonlySet<string>, otherwise = 'machine'): string {
  const plain = name
    .toLowerCase()
    .replace(/[ßæøł]/g, (letter) => SPELT[letter] ?? letter)
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, LONGEST_ID - 5)
    .replace(/^-+|-+$/g, '');
  const id = plain || otherwise;
  for (let nth = 1; ; nth += 1) {
    const wanted = nth === 1 ? id : `${id}-${nth}`;
    if (!taken.has(wanted)) return wanted;
  }
}
