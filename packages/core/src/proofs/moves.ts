import { type Answer, ask, askAll, type Procedure, replies, tell } from '../bringup/procedure';
import { AXES, type Axis } from '../machine/machine';

/** Moves by so much from here and waits for the end; the answer when something came between. Absolute again, whatever came. */
export function* moveBy(...moves: string[]): Procedure<Answer | undefined> {
  const problem = yield* askAll(['G91', ...moves, 'M400']);
  yield* ask('G90');
  return problem;
}

/** Homes what is not homed; the answer when that failed. */
export function* homed(): Procedure<Answer | undefined> {
  const at = replies(yield* ask('M114'), 'at')[0]?.values['homed'];
  if (at === 'xyz') return undefined;
  yield* tell('Homing first. Keep a hand on the stop.');
  const answer = yield* ask('G28');
  return answer.problem === undefined ? undefined : answer;
}

/** The travel as the board has it, in mm: `x=0.0..180.0`. */
export function* travel(): Procedure<Partial<Record<Axis, readonly [number, number]>>> {
  const volume = replies(yield* ask('M115'), 'volume')[0]?.values;
  return Object.fromEntries(
    AXES.flatMap((axis) => {
      const [low, high] = (volume?.[axis] ?? '').split('..').map(Number);
      return low !== undefined && high !== undefined && high > low ? [[axis, [low, high]]] : [];
    }),
  );
}
