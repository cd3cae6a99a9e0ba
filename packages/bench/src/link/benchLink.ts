import { type Bench, type BenchOptions, powerOn } from '../clock/bench';
import type { Link } from './link';

/** Longest piece of virtual time run in one go, in seconds; between pieces a stop gets through. */
const SLICE_S = 0.05;

export interface BenchLink extends Link {
  readonly kind: 'bench';
  /** The powered bench; undefined until the link is opened. */
  bench(): Bench | undefined;
  /** Lets virtual time pass in slices; `carryOn` is asked between them. */
  run(seconds: number, carryOn?: () => boolean): void;
}

/** A link to a board on the virtual bench. Opening it switches the power on, closing it off. */
export function benchLink(
  options: Omit<BenchOptions, 'onLine'> & { onLine?: (line: string) => void },
): BenchLink {
  let bench: Bench | undefined;
  const readers = new Set<(line: string | null) => void>();
  return {
    kind: 'bench',
    bench: () => bench,
    async open() {
      bench = await powerOn({
        ...options,
        onLine: (line) => {
          options.onLine?.(line);
          for (const reader of readers) reader(line);
        },
      });
    },
    close() {
      bench = undefined;
      for (const reader of readers) reader(null);
      return Promise.resolve();
    },
    writeLine: (line) => bench?.send(line),
    lines: () => ({ [Symbol.asyncIterator]: () => lineIterator(readers) }),
    identity: () => `${options.facts.machine.name} on the virtual bench`,
    run(seconds, carryOn = () => true) {
      for (let left = seconds; left > 1e-12 && bench && carryOn(); left -= SLICE_S)
        bench.advance(Math.min(left, SLICE_S));
    },
  };
}

function lineIterator(readers: Set<(line: string | null) => void>): AsyncIterator<string> {
  const waiting: (string | null)[] = [];
  let wake: (() => void) | undefined;
  const reader = (line: string | null) => {
    waiting.push(line);
    wake?.();
  };
  readers.add(reader);
  return {
    async next() {
      while (waiting.length === 0) await new Promise<void>((resolve) => (wake = resolve));
      const line = waiting.shift()!;
      if (line !== null) return { value: line, done: false };
      readers.delete(reader);
      return { value: undefined, done: true };
    },
    return() {
      readers.delete(reader);
      return Promise.resolve({ value: undefined, done: true });
    },
  };
}
