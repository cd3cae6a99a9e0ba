import type { Picture } from '@jolly/core/bringup/picture';
import type { Answer, HandWork, Measure, Procedure, Question, Wanted } from '@jolly/core/bringup/procedure';
import { GAVE_UP } from '@jolly/core/proofs/proof';

/** What a procedure is carried out with: the link, a person who is told and asked, and a way to wait. */
export interface Hands {
  /** `heard` is told what the board has said so far, each time it says more. */
  ask: (line: string, heard?: (lines: readonly string[]) => void) => Promise<Answer>;
  tell: (text: string, work?: HandWork) => void;
  /** The choice that was made; undefined when the person does not go on. */
  choose: (question: Question) => Promise<string | undefined>;
  /** The number that was read off; undefined when the person does not go on. Without, whoever is asked has given up. */
  measure?: (what: Measure) => Promise<number | undefined>;
  show?: (picture: Picture) => void;
  moment: () => Promise<void>;
  /** The person does not go on. */
  givenUp: () => boolean;
}

const NOTHING: Answer = { lines: [] };
const ENDED: Answer = { lines: [], problem: GAVE_UP };

async function carryOut(wanted: Wanted, hands: Hands): Promise<Answer> {
  if ('ask' in wanted) {
    const { ask: line, drawn } = wanted;
    return hands.ask(
      line,
      drawn &&
        ((lines) => {
          const picture = drawn(lines);
          if (picture) hands.show?.(picture);
        }),
    );
  }
  if ('question' in wanted) {
    const chosen = await hands.choose(wanted.question);
    return chosen === undefined ? ENDED : { lines: [chosen] };
  }
  if ('measure' in wanted) {
    const read = await hands.measure?.(wanted.measure);
    return read === undefined ? ENDED : { lines: [String(read)] };
  }
  if ('show' in wanted) {
    hands.show?.(wanted.show);
    return NOTHING;
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
