import { closesAnswer, SILENT_S } from '@jolly/core/bringup/answering';
import { isMeanwhile } from '@jolly/core/bringup/boardReading';
import { type Answer, NO_ANSWER } from '@jolly/core/bringup/procedure';
import { isUnreadable } from '@jolly/core/bringup/unreadable';
import { LostBoard, type Silent, tellsWho, WHO } from './lostBoard';

const STOP = /^stopped:/;
/** A board that has answered nothing yet is given so long for the first line, in s of its own clock. */
const PATIENCE_S = 5;
/** While nothing is heard, each further line is given so long. */
const FURTHER_S = 1;
/**
 * Time may pass by minutes between two looks, and looks pile up in a window that is busy, while the answer is under way: a
 * board is given up on only after so many, two seconds of a window's.
 */
export const LOOKS = 50;
/** While nothing is heard, so many. */
const FURTHER_LOOKS = 3;

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
  /** The machine's clock shows so many s: ends questions that were waited for long enough. */
  passed(atS: number): void;
  /** Nothing is heard of the board; undefined while it answers, or may still. */
  silent(): Silent | undefined;
  /** Nothing is waiting for an answer. */
  idle(): boolean;
  /** Nothing more will be heard: open questions end with this reason. */
  drop(reason: string): void;
}

interface Question {
  line: string;
  quiet: boolean;
  heard: string[];
  told?: Heard;
  /** When it was first waited for, in s of the machine's clock, and how often that was looked at. */
  sinceS?: number;
  looks: number;
  /** The stop that came before its answer was over. A command that ran says nothing more; one that had not been read is refused. */
  stopped?: string;
  /** The board tells who it is: what comes after is of that answer. */
  answering?: boolean;
  resolve: (answer: Answer) => void;
}

/** What a line is to the question that waits for its answer. */
function takeLine(question: Question, line: string): 'one of more' | 'a stop' | 'the last' {
  if (question.stopped !== undefined) {
    question.answering ||= tellsWho(line);
    return question.answering && line === 'done' ? 'the last' : 'one of more';
  }
  question.heard.push(line);
  question.told?.(question.heard);
  if (!closesAnswer(line)) return 'one of more';
  if (!STOP.test(line)) return 'the last';
  question.stopped = line;
  return 'a stop';
}

export function askQueue(send: (line: string, quiet: boolean) => void): AskQueue {
  const waiting: Question[] = [];
  let answered = false;
  /** Nothing is heard; what speaks again is heard, and may still be answering what it was sent before. */
  let silent: Silent | undefined;
  let lost: LostBoard | undefined;
  let lastS = -Infinity;
  /** Something came that cannot be read. */
  let noise = false;
  const next = () => {
    if (waiting[0] && !lost) send(waiting[0].line, waiting[0].quiet);
  };
  function giveUp(question: Question, atS: number): void {
    waiting.shift();
    question.resolve({
      lines: question.heard,
      problem: question.stopped ?? NO_ANSWER,
      atS,
      ...(noise && { noise }),
    });
    next();
  }
  /** So long was the first question waited for, and nothing came; undefined while there is none, or it was looked at too seldom. */
  function waitedS(atS: number): number | undefined {
    const [current] = waiting;
    if (!current) return undefined;
    current.sinceS ??= atS;
    const looks = silent === undefined ? LOOKS : FURTHER_LOOKS;
    return ++current.looks < looks ? undefined : atS - Math.max(current.sinceS, lastS);
  }
  function found(atS: number): void {
    lost = undefined;
    lastS = atS;
    next();
  }
  return {
    ask: (line, quiet = false, told) =>
      new Promise((resolve) => {
        waiting.push({ line, quiet, heard: [], looks: 0, resolve, ...(told && { told }) });
        if (waiting.length === 1) next();
      }),
    hear(line, atS) {
      answered ||= isMeanwhile(line) || closesAnswer(line);
      noise ||= isUnreadable(line);
      lastS = Math.max(lastS, atS ?? -Infinity);
      if (lost) return lost.hear(line, lastS);
      if (isMeanwhile(line)) return true;
      const current = waiting[0];
      if (!current) return false;
      const { stopped } = current;
      const is = takeLine(current, line);
      if (is === 'one of more') return current.quiet || stopped !== undefined;
      if (is === 'a stop') {
        send(WHO, true);
        // A stop is everybody's business.
        return false;
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
      if (lost?.isBack(atS)) found(atS);
      else if (lost?.isToBeAsked(atS)) send(WHO, true);
      silent = lost?.saidWithin(SILENT_S, atS) ? undefined : lost?.since;
      const waited = waitedS(atS);
      const [current] = waiting;
      if (!current || waited === undefined) return;
      if (waited < (silent ? FURTHER_S : answered ? SILENT_S : PATIENCE_S)) return;
      lost ??= new LostBoard(answered ? 'any more' : 'from the start', atS);
      silent = lost.since;
      giveUp(current, atS);
    },
    silent: () => silent,
    idle: () => waiting.length === 0,
    drop(reason) {
      for (const { heard, resolve } of waiting.splice(0)) resolve({ lines: heard, problem: reason });
    },
  };
}
