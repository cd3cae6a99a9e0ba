/** Median and 95th percentile of some times in ms, both in words, and the longest. */
export interface Figures {
  median: number;
  p95: number;
  worst: number;
  words: string;
}

export function spread(times: number[]): Figures {
  const sorted = [...times].sort((a, b) => a - b);
  const median = sorted[Math.floor(sorted.length / 2)]!;
  const p95 = sorted[Math.floor(sorted.length * 0.95)]!;
  const worst = sorted.at(-1) ?? 0;
  return { median, p95, worst, words: `${median.toFixed(2)} ms, ${p95.toFixed(2)} ms` };
}

export const ms = (value: number): string => `${value.toFixed(value < 10 ? 2 : 0)} ms`;

export async function timed<T>(act: () => Promise<T> | T): Promise<{ took: number; result: T }> {
  const from = performance.now();
  const result = await act();
  return { took: performance.now() - from, result };
}

/** How long something takes that does not wait, in s. */
export function seconds(act: () => void): number {
  const from = performance.now();
  act();
  return (performance.now() - from) / 1000;
}

/** How long each of some rounds takes, in ms; a first one is not counted. */
export async function timedAsync(rounds: number, act: () => Promise<unknown>): Promise<number[]> {
  await act();
  const times: number[] = [];
  for (let round = 0; round < rounds; round += 1) times.push((await timed(act)).took);
  return times;
}
