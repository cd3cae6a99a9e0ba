import type { Picture } from './picture';
import { parseReply, type Reply } from './reply';

/** What the board said to one line. */
export interface Answer {
  lines: string[];
  /** The error or stop that ended it, if one did. */
  problem?: string;
  /** There was no answer, but something came that cannot be read. */
  noise?: boolean;
  /** When it ended, in s of the machine's clock; missing where nothing was sent. */
  atS?: number;
}

/** The problem of a line that the board said nothing to, for as long as it was waited for. */
export const NO_ANSWER = 'no answer';

/** What hands do at a part of the machine, and how that is called. */
export interface HandWork {
  do: 'press' | 'warm' | 'cool' | 'pull';
  part: string;
  label: string;
}

/** Something only a person can see, asked with the answers that can be given. */
export interface Question {
  text: string;
  /** What is looked at: a part's id, or `place` for where the nozzle is. */
  about: string;
  choices: readonly Choice[];
  /** What hands do, or take back, as it is answered. */
  hand?: { work: HandWork; on: boolean };
  /** Screws of the plate that hands turn as the first choice is made, each by so much up, mm. */
  screws?: readonly { id: string; x: number; y: number; up: number }[];
}
export interface Choice {
  id: string;
  label: string;
  /** Keys that make it at arm's length, beside its number. */
  keys?: readonly string[];
}

/** A number that only a person can read off the machine. */
export interface Measure {
  text: string;
  label: string;
  unit: string;
  /** What it can be at all. */
  range: readonly [number, number];
  /** About what it will be, for keys that go up and down to begin at. */
  near?: number;
  /** What is measured: `filament`, `margin`, … */
  about: string;
}

/**
 * What a procedure wants done next: a line sent and answered, a person told what to do, a question answered by what they
 * see or measure, something drawn, or a moment waited.
 */
export type Wanted =
  /** `drawn` draws what the board has said so far while a long answer comes in. */
  | { ask: string; drawn?: (lines: readonly string[]) => Picture | undefined }
  | { tell: string; work?: HandWork }
  | { question: Question }
  | { measure: Measure }
  | { show: Picture }
  | { wait: 'a moment' };

/**
 * Something that is carried out at a machine, step by step: it yields what it wants done and goes on with the answer.
 * Whoever carries it out holds the link and the clock. A person who gives up is an answer with a problem.
 */
export type Procedure<T> = Generator<Wanted, T, Answer>;

export function* ask(
  line: string,
  drawn?: (lines: readonly string[]) => Picture | undefined,
): Procedure<Answer> {
  return yield { ask: line, ...(drawn && { drawn }) };
}
export function* show(picture: Picture): Procedure<void> {
  yield { show: picture };
}
/** The number that was read off, or the answer that ended it: the person gave up. */
export function* measure(what: Measure): Procedure<{ read: number } | { ended: Answer }> {
  const answer = yield { measure: what };
  const [typed] = answer.lines;
  return answer.problem === undefined && typed !== undefined ? { read: Number(typed) } : { ended: answer };
}
export function* tell(text: string, work?: HandWork): Procedure<void> {
  yield { tell: text, ...(work && { work }) };
}
/** The choice that was made, or the answer that ended it: the person gave up. */
export function* choose(question: Question): Procedure<{ chosen: string } | { ended: Answer }> {
  const answer = yield { question };
  const [chosen] = answer.lines;
  return answer.problem === undefined && chosen !== undefined ? { chosen } : { ended: answer };
}
/** Waits a moment; the problem says that the person gave up meanwhile. */
export function* wait(): Procedure<Answer> {
  return yield { wait: 'a moment' };
}

/** The replies of an answer that begin with a word. */
export const replies = (answer: Answer, word: string): Reply[] =>
  answer.lines.map(parseReply).filter((reply) => reply.word === word);

/** What a run has seen and is to be judged, or the answer that ended it early. */
export type Run<Seen> = Procedure<{ seen: Seen } | { ended: Answer }>;
export const seen = <Seen>(what: Seen): { seen: Seen } => ({ seen: what });
export const ended = (answer: Answer): { ended: Answer } => ({ ended: answer });

/** Asks one line after another, until one has a problem: that answer; undefined when all went well. */
export function* askAll(lines: readonly string[]): Procedure<Answer | undefined> {
  for (const line of lines) {
    const answer = yield* ask(line);
    if (answer.problem !== undefined) return answer;
  }
  return undefined;
}

/** Waits until a person says that they do, or have taken back, what they were told. */
export const confirm = (text: string, label: string, work: HandWork, on: boolean) =>
  choose({ text, about: 'hands', choices: [{ id: 'done', label }], hand: { work, on } });

/** Asks what a person sees, and ends with it. */
export function* see(question: Question): Run<string> {
  const answer = yield* choose(question);
  return 'ended' in answer ? answer : seen(answer.chosen);
}
