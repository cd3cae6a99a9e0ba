import type { Answer, Procedure, Wanted } from '@jolly/core/bringup/procedure';

/** What a procedure is carried out with: the link, a place to tell a person what to do, and a way to wait. */
export interface Hands {
  ask: (line: string) => Promise<Answer>;
  tell: (text: string) => void;
  moment: () => Promise<void>;
  /** The person does not go on. */
  givenUp: () => boolean;
}

const NOTHING: Answer = { lines: [] };

async function carryOut(wanted: Wanted, { ask, tell, moment, givenUp }: Hands): Promise<Answer> {
  if ('ask' in wanted) return ask(wanted.ask);
  if ('tell' in wanted) {
    tell(wanted.tell);
    return NOTHING;
  }
  await moment();
  return givenUp() ? { lines: [], problem: 'you gave up' } : NOTHING;
}

/** Carries a procedure out at a machine, to its end. */
export async function runProcedure<T>(procedure: Procedure<T>, hands: Hands): Promise<T> {
  let step = procedure.next(NOTHING);
  while (!step.done) step = procedure.next(await carryOut(step.value, hands));
  return step.value;
}
