/**
 * A name in the letters that a serial line, a display and an image header have: printable ASCII without the quotes
 * that end a name in a reply. Accents are left away, anything else becomes a question mark. Never longer than
 * `longest`.
 */
export function boardText(name: string, longest = Infinity): string {
  const ascii = name
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/"/g, "'")
    .replace(/[^ -~]/gu, '?');
  return ascii.slice(0, longest);
}
