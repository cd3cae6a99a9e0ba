import { parseReply, type Reply } from './reply';

/** What the board said to one line. */
export interface Answer {
  lines: string[];
  /** The error or stop that ended it, if one did. */
  problem?: string;
}

/** What a procedure wants done next: a line sent and answered, a person told what to do, or a moment waited. */
export type Wanted = { ask: string } | { tell: string } | { wait: 'a moment' };

/**
 * Something that is carried out at a machine, step by step: it yields what it wants done and goes on with the answer.
 * Whoever carries it out holds the link and the clock. A person who gives up is an answer with a problem.
 */
export type Procedure<T> = Generator<Wanted, T, Answer>;

export function* ask(line: string): Procedure<Answer> {
  return yield { ask: line };
}
export function* tell(text: string): Procedure<void> {
  yield { tell: text };
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
