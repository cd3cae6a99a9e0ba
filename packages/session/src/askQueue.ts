import { isMeanwhile } from '@jolly/core/bringup/boardReading';
import { type Answer, NO_ANSWER } from '@jolly/core/bringup/procedure';
import { isUnreadable } from '@jolly/core/bringup/unreadable';

/** Every reply ends with one of these. */
const LAST_LINE = /^(done$|error:|stopped:)/;
const STOP = /^stopped:/;
/**
 * A board that has answered nothing yet is given so long for the first line, in s of its own clock, and so long for each
 * further one. One that has answered may be at work for hours, and says so once a second.
 */
const PATIENCE_S = 5;
const FURTHER_S = 1;

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
  /** The machine's clock shows so many s; true when a board that never answered was waited for long enough. */
  passed(atS: number): boolean;
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
  /** When it was first waited for, in s of the machine's clock. */
  sinceS?: number;
  /** The stop that came before its answer was over. A command that ran says nothing more; one that had not been read is refused. */
  stopped?: string;
  /** The board tells who it is: what comes after is of that answer. */
  answering?: boolean;
  resolve: (answer: Answer) => void;
}

export function askQueue(send: (line: string, quiet: boolean) => void): AskQueue {
  const waiting: Question[] = [];
  let answered = false;
  let patienceS = PATIENCE_S;
  /** Something came that cannot be read. */
  let noise = false;
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
      answered ||= isMeanwhile(line) || LAST_LINE.test(line);
      noise ||= isUnreadable(line);
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
    passed(atS) {
      const [current] = waiting;
      if (answered || !current) return false;
      current.sinceS ??= atS;
      if (atS - current.sinceS < patienceS) return false;
      patienceS = FURTHER_S;
      waiting.shift();
      current.resolve({ lines: [], problem: NO_ANSWER, atS, ...(noise && { noise }) });
      next();
      return true;
    },
    idle: () => waiting.length === 0,
    drop(reason) {
      for (const { heard, resolve } of waiting.splice(0)) resolve({ lines: heard, problem: reason });
    },
  };
}
