import { isMeanwhile } from '@jolly/core/bringup/boardReading';
import { isUnreadable } from '@jolly/core/bringup/unreadable';

/** That nothing is heard of a board: since the power came on, or any more. */
export type Silent = 'from the start' | 'any more';

/**
 * Asked at once after a stop, and while nothing is heard: whatever became of the question that was under way, all answers
 * before it are over when the answer to this one is.
 */
export const WHO = 'M115';
export const tellsWho = (line: string): boolean => line.startsWith('lantern ');

/** A board that is not heard is asked so often, in s; and after such a pause nothing more comes of what was sent before. */
const PAUSE_S = 1;
/** A board at work says so more often than that. */
const WORD_S = 3;

/** A board that was asked and not heard. Times in s of its own clock. */
export class LostBoard {
  /** What has come since and can be read came last then. */
  private heardS = -Infinity;
  private answering = false;
  private answered = false;

  /** @param askedS when it was asked last who it is */
  constructor(
    readonly since: Silent,
    private askedS: number,
  ) {}

  /** Takes a line; true when nobody waits for it. */
  hear(line: string, atS: number): boolean {
    if (!isUnreadable(line)) this.heardS = atS;
    this.answering ||= tellsWho(line);
    this.answered ||= this.answering && line === 'done';
    return this.answering || isMeanwhile(line);
  }

  /** It has told who it is, and whatever it was sent before is answered too. */
  isBack(atS: number): boolean {
    return this.answered && atS - this.heardS >= PAUSE_S;
  }

  /** Whether it is time to ask who it is; it counts as asked then. */
  isToBeAsked(atS: number): boolean {
    // What is at work answers when it has done, and is not asked over and over.
    if (this.answered || atS - this.askedS < PAUSE_S || atS - this.heardS < WORD_S) return false;
    this.askedS = atS;
    return true;
  }

  saidWithin(seconds: number, atS: number): boolean {
    return atS - this.heardS < seconds;
  }
}
