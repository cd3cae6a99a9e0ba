/* global document, requestAnimationFrame */

/** Scrolls the longest page there is on the screen, 40 px a frame, and tells in words how long the frames took. */
export async function scrolling(page, frames = 240) {
  const took = await page.evaluate(async (count) => {
    const scrolled = [document.scrollingElement, ...document.querySelectorAll('main, main *')].find(
      (element) => element && element.scrollHeight > element.clientHeight + 10 && element.clientHeight > 200,
    );
    const times = [];
    let last = performance.now();
    for (let frame = 0; frame < count; frame += 1) {
      scrolled?.scrollBy(0, 40);
      await new Promise((resolve) => requestAnimationFrame(resolve));
      const now = performance.now();
      times.push(now - last);
      last = now;
    }
    return times;
  }, frames);
  const median = [...took].sort((a, b) => a - b)[Math.floor(took.length / 2)];
  return `${median.toFixed(1)} ms a frame, ${Math.max(...took).toFixed(0)} ms at most; ${took.filter((one) => one > 34).length} of ${frames} longer than two frames`; // prettier-ignore
}
