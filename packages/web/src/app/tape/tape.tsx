import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from 'react';

export type TapeKind = 'sent' | 'heard' | 'build' | 'done';
export interface TapeLine {
  id: number;
  at: Date;
  kind: TapeKind;
  text: string;
}
interface Tape {
  lines: TapeLine[];
  write(kind: TapeKind, ...texts: string[]): void;
}

/** Older lines fall off, so that a long session does not grow without end. */
const LONGEST = 5000;

const TapeContext = createContext<Tape>({ lines: [], write: () => undefined });

/** One time order for serial lines, build output and things done in this window. */
export function TapeProvider({ children }: { children: ReactNode }) {
  const [lines, setLines] = useState<TapeLine[]>([]);
  const write = useCallback((kind: TapeKind, ...texts: string[]) => {
    const at = new Date();
    setLines((before) => {
      const next = (before.at(-1)?.id ?? 0) + 1;
      return [...before, ...texts.map((text, index) => ({ id: next + index, at, kind, text }))].slice(
        -LONGEST,
      );
    });
  }, []);
  const tape = useMemo(() => ({ lines, write }), [lines, write]);
  return <TapeContext value={tape}>{children}</TapeContext>;
}

export const useTape = () => useContext(TapeContext);
