/** Words of a page that lie over other words or over a drawing. Runs in the page; what scrolls away or floats is left out. */
export function overlapping(): string[] {
  const scrolls = /auto|scroll|hidden/;
  const isApart = (element: Element, at: DOMRect): boolean => {
    for (let around: Element | null = element; around; around = around.parentElement) {
      const { position, overflowX, overflowY } = getComputedStyle(around);
      if (position === 'fixed' || position === 'sticky') return true;
      if (!scrolls.test(overflowX + overflowY)) continue;
      const box = around.getBoundingClientRect();
      // Words for readers of the screen only are cut to a point.
      if (box.width <= 2) return true;
      if (at.bottom < box.top || at.top > box.bottom || at.right < box.left || at.left > box.right)
        return true;
    }
    return false;
  };
  const isShown = (element: Element): boolean =>
    element.checkVisibility({
      contentVisibilityAuto: true,
      opacityProperty: true,
      visibilityProperty: true,
    }) &&
    !element.closest('svg, [aria-hidden="true"], .unseen, option, script, style') &&
    (!element.closest('details:not([open])') || element.closest('summary') !== null);

  const boxes: { at: DOMRect; what: string }[] = [];
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let text = texts.nextNode(); text; text = texts.nextNode()) {
    const [element, what] = [text.parentElement, text.textContent?.trim() ?? ''];
    if (!element || what === '' || !isShown(element)) continue;
    const range = document.createRange();
    range.selectNodeContents(text);
    for (const at of range.getClientRects())
      if (at.width > 3 && at.height > 3 && !isApart(element, at)) boxes.push({ at, what: what.slice(0, 40) });
  }
  for (const drawing of document.querySelectorAll('svg, canvas')) {
    const at = drawing.getBoundingClientRect();
    if (drawing.closest('button, a, [aria-hidden="true"]') || at.width < 40 || at.height < 40) continue;
    boxes.push({ at, what: `the drawing ${drawing.getAttribute('aria-label') ?? ''}` });
  }
  return boxes.flatMap((one, index) =>
    boxes.slice(index + 1).flatMap((other) => {
      const wide = Math.min(one.at.right, other.at.right) - Math.max(one.at.left, other.at.left);
      const high = Math.min(one.at.bottom, other.at.bottom) - Math.max(one.at.top, other.at.top);
      return one.what !== other.what && wide > 4 && high > 5 ? [`${one.what} × ${other.what}`] : [];
    }),
  );
}
