import { isMeanwhile } from '@jolly/core/bringup/boardReading';
import type { Answer } from '@jolly/core/bringup/procedure';

/** Every reply ends with one of these. */
const LAST_LINE = /^(done$|error:|stopped:)/;
const STOP = /^stopped:/;

export type Heard = (lines: readonly string[]) => void;

/** Pairs what is sent with what comes back: one question at a time, each ended by the board's closing line. */
export interface AskQueue {
  /**
   * A quiet question, asked by the window itself and not by a person, is left out of the tape. `heard` is told the lines so
   * far as each comes in.
   */
  ask(line: string, quiet?: boolean, heard?: Heard): Promise<Answer>;
  /** Takes a line; true when it answers a quiet question, or came by itself. */
  hear(line: string, atS?: number): boolean;
  /** Nothing is waiting for an answer. */
  idle(): boolean;
  /** Nothing more will be heard: open questions end with this reason. */
  drop(reason: string): void;
}

/**
 * Asked at once after a stop: whatever became of the question that was under way, all answers before it are over when the
 * answer to this one is.
 */
const AFTER_STOP = 'M115';
const ANSWERS_IT = /^lantern /;

interface Question {
  line: string;
  quiet: boolean;
  heard: string[];
  told?: Heard;
  /** The stop that came before its answer was over. A command that ran says nothing more; one that had not been read is refused. */
  stopped?: string;
  /** The board tells who it is: what comes after is of that answer. */
  answering?: boolean;
  resolve: (answer: Answer) => void;
}

export function askQueue(send: (line: string, quiet: boolean) => void): AskQueue {
  const waiting: Question[] = [];
  const next = () => {
    if (waiting[0]) send(waiting[0].line, waiting[0].quiet);
  };
  return {
    ask: (line, quiet = false, told) =>
      new Promise((resolve) => {
        waiting.push({ line, quiet, heard: [], resolve, ...(told && { told }) });
        if (waiting.length === 1) next();
      }),
    hear(line, atS) {
      if (isMeanwhile(line)) return true;
      const current = waiting[0];
      if (!current) return false;
      const { stopped } = current;
      if (stopped === undefined) {
        current.heard.push(line);
        current.told?.(current.heard);
        if (!LAST_LINE.test(line)) return current.quiet;
        if (STOP.test(line)) {
          current.stopped = line;
          send(AFTER_STOP, true);
          // A stop is everybody's business.
          return false;
        }
      } else {
        current.answering ||= ANSWERS_IT.test(line);
        if (!current.answering || line !== 'done') return true;
      }
      waiting.shift();
      const problem = stopped ?? (line === 'done' ? undefined : line);
      current.resolve({
        lines: current.heard,
        ...(problem !== undefined && { problem }),
        ...(atS !== undefined && { atS }),
      });
      next();
      return current.quiet && problem === undefined;
    },
    idle: () => waiting.length === 0,
    drop(reason) {
      for (const { heard, resolve } of waiting.splice(0)) resolve({ lines: heard, problem: reason });
    },
  };
}
