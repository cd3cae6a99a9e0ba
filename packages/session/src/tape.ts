import { store, type Watched } from './store';

export type TapeKind = 'sent' | 'heard' | 'build' | 'done';
export interface TapeLine {
  id: number;
  at: Date;
  kind: TapeKind;
  text: string;
}

/** One time order for serial lines, build output and things done in a window. */
export interface Tape {
  lines: Watched<readonly TapeLine[]>;
  write(kind: TapeKind, ...texts: string[]): void;
}

/** Older lines fall off, so that a long session does not grow without end. */
const LONGEST = 5000;

export function openTape(clock: () => number): Tape {
  const lines = store<readonly TapeLine[]>([]);
  return {
    lines,
    write(kind, ...texts) {
      const before = lines.now();
      const at = new Date(clock());
      const next = (before.at(-1)?.id ?? 0) + 1;
      const added = texts.map((text, index) => ({ id: next + index, at, kind, text }));
      lines.set([...before, ...added].slice(-LONGEST));
    },
  };
}
