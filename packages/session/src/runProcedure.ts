import type { Answer, HandWork, Procedure, Question, Wanted } from '@jolly/core/bringup/procedure';
import { GAVE_UP } from '@jolly/core/proofs/proof';

/** What a procedure is carried out with: the link, a person who is told and asked, and a way to wait. */
export interface Hands {
  ask: (line: string) => Promise<Answer>;
  tell: (text: string, work?: HandWork) => void;
  /** The choice that was made; undefined when the person does not go on. */
  choose: (question: Question) => Promise<string | undefined>;
  moment: () => Promise<void>;
  /** The person does not go on. */
  givenUp: () => boolean;
}

const NOTHING: Answer = { lines: [] };
const ENDED: Answer = { lines: [], problem: GAVE_UP };

async function carryOut(wanted: Wanted, hands: Hands): Promise<Answer> {
  if ('ask' in wanted) return hands.ask(wanted.ask);
  if ('question' in wanted) {
    const chosen = await hands.choose(wanted.question);
    return chosen === undefined ? ENDED : { lines: [chosen] };
  }
  if ('tell' in wanted) {
    hands.tell(wanted.tell, wanted.work);
    return NOTHING;
  }
  await hands.moment();
  return hands.givenUp() ? ENDED : NOTHING;
}

/** Carries a procedure out at a machine, to its end. */
export async function runProcedure<T>(procedure: Procedure<T>, hands: Hands): Promise<T> {
  let step = procedure.next(NOTHING);
  while (!step.done) step = procedure.next(await carryOut(step.value, hands));
  return step.value;
}
