/** Whether a text holds every word that is sought, in any order, large or small; nothing sought is held by every text. */
export function holdsWords(text: string, sought: string): boolean {
  const lower = text.toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => lower.includes(word));
}
