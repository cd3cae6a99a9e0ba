/** Words of a page that do not stand on one line, though they are short: their column is too narrow. Runs in the page. */
export function brokenWords(): string[] {
  const LONGEST = 14;
  const broken: string[] = [];
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let text = texts.nextNode(); text; text = texts.nextNode()) {
    const around = text.parentElement;
    if (!around?.checkVisibility({ contentVisibilityAuto: true, visibilityProperty: true })) continue;
    if (around.closest('svg, pre, code, [aria-hidden="true"], .unseen, option, script, style')) continue;
    for (const { 0: word, index } of (text.textContent ?? '').matchAll(/[\p{L}\d]+/gu)) {
      if (word.length > LONGEST) continue;
      const range = document.createRange();
      range.setStart(text, index);
      range.setEnd(text, index + word.length);
      const lines = new Set(
        [...range.getClientRects()].filter(({ width }) => width > 0).map(({ top }) => Math.round(top)),
      );
      if (lines.size > 1) broken.push(`${word} in “${(around.textContent ?? '').trim().slice(0, 40)}”`);
    }
  }
  return broken;
}
