/** Median and 95th percentile of some times in ms, and both in words. */
export interface Figures {
  median: number;
  p95: number;
  words: string;
}

export function spread(times: number[]): Figures {
  const sorted = [...times].sort((a, b) => a - b);
  const median = sorted[Math.floor(sorted.length / 2)]!;
  const p95 = sorted[Math.floor(sorted.length * 0.95)]!;
  return { median, p95, words: `${median.toFixed(2)} ms, ${p95.toFixed(2)} ms` };
}
