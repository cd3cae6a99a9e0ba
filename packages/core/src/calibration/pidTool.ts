import { heatLine } from '../bringup/heatLines';
import { ask, type Procedure, replies, tell } from '../bringup/procedure';
import type { Facts } from '../machine/facts';
import { SECOND_HOTEND } from '../machine/machine';
import { bodyCalled } from '../machine/bodyCalled';
import { heatKey } from '../settings/heatKey';
import { AMBIENT_C } from '../settings/heaterCurve';
import { numberOf, type Settings } from '../settings/setting';
import { type CalibrationTool, endedBy, missingOf, numberIn } from './calibrationTool';
import { givingBack } from './givingBack';
import { judgeTuning, type Pid, type Tuning } from './judgeTuning';
import { type Tuned, tunedOn } from './tuned';
import { BODY, type Ended, warming } from './warming';

/** P, I and D of each heated body by the image's own self-tune, with what it ran over before and after. */
export const pidTools = (facts: Facts, settings: Settings): CalibrationTool[] =>
  tunedOn(facts).map((body) => pidTool(facts, settings, body));

function pidTool(facts: Facts, settings: Settings, body: Tuned): CalibrationTool {
  const called = bodyCalled(body);
  const key = heatKey(body);
  const byPid = settings.get(`control.${key}`)?.value === 'pid';
  const missing = byPid
    ? missingOf(facts, settings, ['tune'])
    : `The ${called} is switched on and off without PID on this machine (control.${key}).`;
  const most = numberOf(settings, `heat.${key}.max`);
  const tool: CalibrationTool = {
    id: `pid-${key}`,
    title: `PID of the ${called}`,
    what: `How hard the ${called} is heated on the way to its target and at it. Tune it at the heat you print at, with the fan and in the room you print in; again after another heater, sensor, fan, supply or board.`,
    toHand: body !== 'bed' ? ['No filament in the nozzle, or a scrap below it'] : ['The plate as you print on it', 'Some time: it cools slowly in between'],
    caution: `The ${called} gets hot: it burns fingers. Stay with it.`,
    choosing: [
      { key: 'targetC', label: 'Tune at', unit: '°C', range: [AMBIENT_C + 20, most - 5], value: Math.min(most - 5, BODY[body].usualC), help: 'Where you print.' },
    ],
    after: [`heat-${body}`, `guard-${body}`],
    ...(body === SECOND_HOTEND && { tool: 'T1' as const }),
    ...(missing && { missing }),
    *run(chosen) {
      const targetC = Math.round(numberIn(tool, chosen, 'targetC'));
      const letters = { p: `pid.${key}.p`, i: `pid.${key}.i`, d: `pid.${key}.d` } as const;
      // The self-tune puts its values in place by itself.
      return yield* givingBack(facts, settings, Object.values(letters), function* (values) {
        const had: Pid = { p: values[letters.p], i: values[letters.i], d: values[letters.d] };
        const result = yield* tuneAndWatch(body, targetC);
        yield* ask(heatLine(body, 0));
        return 'ended' in result
          ? endedBy(result.ended)
          : judgeTuning(facts, settings, { body, targetC, had, ...result });
      });
    },
  };
  return tool;
} // prettier-ignore

function* tuneAndWatch(body: Tuned, targetC: number): Procedure<Tuning | Ended> {
  // From as cold as it is, for the heater's own curve; then twice from the same warmth, to be compared.
  const first = yield* warming(body, targetC);
  if ('ended' in first) return first;
  const fromC = targetC - BODY[body].fromBelowC;
  const before = first.startC < fromC - 2 ? yield* warming(body, targetC, undefined, fromC) : first;
  if ('ended' in before) return before;
  const called = bodyCalled(body);
  yield* tell(`The ${called} swings about ${targetC} °C now, five times.`);
  const answer = yield* ask(`tune h=${BODY[body].number} c=${targetC}`);
  const values = replies(answer, 'tuned')[0]?.values;
  const pid = { p: Number(values?.['p']), i: Number(values?.['i']), d: Number(values?.['d']) };
  if (answer.problem !== undefined) return { ended: answer };
  if (!Object.values(pid).every(Number.isFinite))
    return { ended: { ...answer, problem: 'error: the self-tune told no P, I and D' } };
  const after = yield* warming(body, targetC, before, before.startC);
  return 'ended' in after ? after : { first, before, after, pid };
}
