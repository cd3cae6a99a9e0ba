import { ask, ended, type Procedure, replies, type Run, seen, tell } from './procedure';
import type { Reply } from './reply';

/** How much heat is asked for, in °C. */
const RISE_C = 15;
/** How long the relay is watched after it was asked for none, in s; what is in the heater still comes out. */
const WATCH_S = 40;
const SLACK_C = 6;

function* readBody(body: string): Procedure<Reply['values'] | undefined> {
  return replies(yield* ask('M105'), 'heat').find(({ values }) => values['body'] === body)?.values;
}

/** Asks for a little heat, then for none, and looks whether the relay went on and dropped out. */
export function* watchRelay(body: string): Run<{ ok: boolean; evidence: string[] }> {
  const cold = yield* readBody(body);
  if (!cold) return ended({ lines: [], problem: `no reading of the ${body}` });
  yield* tell('Watch the lamp of the relay: it lights while heat is asked for, and goes dark after.');
  const heat = body === 'bed' ? 'M140' : 'M104';
  const on = yield* ask(`${heat} S${Math.round(Number(cold['now']) + RISE_C)}`);
  if (on.problem) return ended(on);
  yield* ask('G4 S2');
  const warm = yield* readBody(body);
  yield* ask(`${heat} S0`);
  yield* ask('G4 S2');
  const off = yield* readBody(body);
  yield* ask(`G4 S${WATCH_S}`);
  const later = yield* readBody(body);
  const duty = (values: Reply['values'] | undefined) => Number(values?.['duty'] ?? NaN);
  const stays = Number(later?.['now']) <= Number(off?.['now']) + SLACK_C;
  return seen({
    ok: duty(warm) > 0 && duty(off) === 0 && stays,
    evidence: [
      `while asked for heat the board switched it on ${Math.round(duty(warm) * 100)} % of the time`,
      `asked for none: ${Math.round(duty(off) * 100)} %`,
      `${off?.['now']} °C then, ${later?.['now']} °C ${WATCH_S} s later: ${stays ? 'it dropped out' : 'it still heats'}`,
    ],
  });
}
