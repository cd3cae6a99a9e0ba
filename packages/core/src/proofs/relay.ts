import { ask, ended, type Procedure, type Run, seen, tell } from '../bringup/procedure';
import { type Facts, partFor } from '../machine/facts';
import { WARMED } from '../machine/machine';
import { canHeat, firstTool, heatLine } from '../bringup/heatLines';
import { bodyCalled } from '../machine/bodyCalled';
import { readBodies } from './bodies';
import { found, type Proof, proof, proven } from './proof';

/** How much heat is asked for, in °C. */
const RISE_C = 15;
/** How long the relay is watched after it was asked for none, in s; what is in the heater still comes out. */
const WATCH_S = 40;
const SLACK_C = 6;

/** Each relay that stands before a heater switches on, and drops out. */
export const relayProofs = (facts: Facts): Proof[] =>
  WARMED.filter((body) => partFor(facts, 'relay', body) && canHeat(facts, body)).map((body) =>
    proof(
      {
        id: `relay-${body}`,
        title: `The relay of the ${bodyCalled(body)} drops out`,
        act: 'Ask for a little heat, see the board switch the relay on, ask for none, and see it drop out: its lamp goes dark and the temperature stops rising.',
        caution:
          'A relay that sticks keeps the heater on. Keep a hand on the mains switch, and pull the plug if it does not drop out.',
        restsOn: ['board', `relay.${body}`, 'landing.relay', `heater.${body}`],
        after: ['cold', `warm-${body}`],
        causes: {
          never: [{ cause: 'Its input gets nothing', look: 'Measure at its input while heat is asked for; compare its leads with the swap sheet.', at: 'wiring' }],
          sticks: [{ cause: 'Its contacts have welded together', look: 'Pull the plug. Put in another relay, one for more current.' }],
        },
      },
      () => watchRelay(facts, body),
      ({ ok, wasOn, evidence }) => (ok ? proven(...evidence) : found(wasOn ? 'sticks' : 'never', ...evidence)),
    ),
  ); // prettier-ignore

function* readBody(body: string): Procedure<{ now: number; duty: number } | undefined> {
  return (yield* readBodies())[body];
}

/** Asks for a little heat, then for none, and looks whether the relay went on and dropped out. */
function* watchRelay(facts: Facts, body: string): Run<{ ok: boolean; wasOn: boolean; evidence: string[] }> {
  yield* firstTool(facts);
  const cold = yield* readBody(body);
  if (!cold) return ended({ lines: [], problem: `no reading of the ${body}` });
  yield* tell('Watch the lamp of the relay: it lights while heat is asked for, and goes dark after.');
  const on = yield* ask(heatLine(body, cold.now + RISE_C));
  if (on.problem) return ended(on);
  yield* ask('G4 S2');
  const warm = yield* readBody(body);
  yield* ask(heatLine(body, 0));
  yield* ask('G4 S2');
  const off = yield* readBody(body);
  yield* ask(`G4 S${WATCH_S}`);
  const later = yield* readBody(body);
  const duty = (reading: { duty: number } | undefined) => reading?.duty ?? NaN;
  const stays = (later?.now ?? NaN) <= (off?.now ?? NaN) + SLACK_C;
  return seen({
    ok: duty(warm) > 0 && duty(off) === 0 && stays,
    wasOn: duty(warm) > 0,
    evidence: [
      `while asked for heat the board switched it on ${Math.round(duty(warm) * 100)} % of the time`,
      `asked for none: ${Math.round(duty(off) * 100)} %`,
      `${off?.now} °C then, ${later?.now} °C ${WATCH_S} s later: ${stays ? 'it dropped out' : 'it still heats'}`,
    ],
  });
}
