import { isMeanwhile } from '@jolly/core/bringup/boardReading';
import type { Answer } from '@jolly/core/bringup/procedure';

/** Every reply ends with one of these. */
const LAST_LINE = /^(done$|error:|stopped:)/;

/** Pairs what is sent with what comes back: one question at a time, each ended by the board's closing line. */
export interface AskQueue {
  /** A quiet question, asked by the window itself and not by a person, is left out of the tape. */
  ask(line: string, quiet?: boolean): Promise<Answer>;
  /** Takes a line; true when it answers a quiet question, or came by itself. */
  hear(line: string): boolean;
  /** Nothing is waiting for an answer. */
  idle(): boolean;
  /** Nothing more will be heard: open questions end with this reason. */
  drop(reason: string): void;
}

interface Question {
  line: string;
  quiet: boolean;
  heard: string[];
  resolve: (answer: Answer) => void;
}

export function askQueue(send: (line: string, quiet: boolean) => void): AskQueue {
  const waiting: Question[] = [];
  const next = () => {
    if (waiting[0]) send(waiting[0].line, waiting[0].quiet);
  };
  return {
    ask: (line, quiet = false) =>
      new Promise((resolve) => {
        waiting.push({ line, quiet, heard: [], resolve });
        if (waiting.length === 1) next();
      }),
    hear(line) {
      if (isMeanwhile(line)) return true;
      const current = waiting[0];
      if (!current) return false;
      current.heard.push(line);
      if (!LAST_LINE.test(line)) return current.quiet;
      waiting.shift();
      current.resolve({ lines: current.heard, ...(line !== 'done' && { problem: line }) });
      next();
      // A stop is everybody's business.
      return current.quiet && line === 'done';
    },
    idle: () => waiting.length === 0,
    drop(reason) {
      for (const { heard, resolve } of waiting.splice(0)) resolve({ lines: heard, problem: reason });
    },
  };
}
