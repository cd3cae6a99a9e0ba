/* global window, requestAnimationFrame, cancelAnimationFrame */
const SHOWN_MS = 4000;

/** Moves the mouse from place to place for some seconds, and tells in words how many frames were shown meanwhile. */
export async function framesWhile(page, placeAt) {
  await page.evaluate(() => {
    window.frames_ = [];
    const note = (now) => {
      window.frames_.push(now);
      window.raf_ = requestAnimationFrame(note);
    };
    requestAnimationFrame(note);
  });
  const until = Date.now() + SHOWN_MS;
  for (let step = 0; Date.now() < until; step += 1) await page.mouse.move(...placeAt(step));
  const frames = await page.evaluate(() => (cancelAnimationFrame(window.raf_), window.frames_));
  const gaps = frames
    .slice(1)
    .map((at, index) => at - frames[index])
    .sort((a, b) => a - b);
  const seconds = (frames.at(-1) - frames[0]) / 1000;
  return `${((frames.length - 1) / seconds).toFixed(1)} frames a second; gap median ${gaps[gaps.length >> 1].toFixed(1)} ms, p95 ${gaps[Math.floor(gaps.length * 0.95)].toFixed(1)} ms`;
}
