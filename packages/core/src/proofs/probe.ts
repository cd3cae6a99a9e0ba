import {
  ask,
  askAll,
  type Choice,
  confirm,
  ended,
  type HandWork,
  replies,
  type Run,
  see,
  seen,
  tell,
} from '../bringup/procedure';
import { type Facts, type PlacedPart, partsOf } from '../machine/facts';
import type { PartOf } from '../parts/part';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { found, type Proof, proof, proofBySight, proven } from './proof';
import { inputCauses, judgeBothWays, readBothWays, switchInput } from './readBothWays';

const RESTS_ON = ['board', 'probe', 'probe-mount', 'landing.probe', 'supply'];
const IN_OUT: readonly Choice[] = [
  { id: 'both', label: 'It came out and went in again' },
  { id: 'stays-out', label: 'It came out and stays out' },
  { id: 'stays-in', label: 'It never came out' },
];

/** A probe goes out and in, says when it is met, and says when it is stuck; the first three in the air. */
export function probeProofs(facts: Facts, settings: Settings): Proof[] {
  return partsOf(facts, 'probe').slice(0, 1).flatMap((part) => {
    const moves = part.type.servo_us !== undefined;
    return [
      ...(moves ? [outAndIn(part)] : []),
      inTheAir(part, moves),
      ...(moves && isOn(settings, 'probe.alarm') ? [alarm(part)] : []),
    ];
  }); // prettier-ignore
}

const outAndIn = ({ id }: PlacedPart<PartOf<'probe'>>): Proof =>
  proofBySight(
    {
      id: 'probe-moves',
      title: 'The probe comes out and goes in',
      act: 'Let the probe out and draw it in again, high above the plate, and watch its pin.',
      caution: 'A pin that hangs out meets the plate on the way. Keep the nozzle high.',
      restsOn: RESTS_ON,
      after: ['identity'],
      causes: {
        'stays-out': [
          { cause: 'Its pin is bent or dirty', look: 'Power off. Push it in with a finger: it must slide.' },
          { cause: 'The pulse that draws it in is another one', look: 'Compare the pulses with its leaflet.', at: 'settings' },
        ],
        'stays-in': [
          { cause: 'Its control lead has no contact or another pin', look: 'Compare it with the swap sheet.', at: 'wiring' },
          { cause: 'It gets no 5 V', look: 'Measure at its plug.' },
        ],
      },
    },
    IN_OUT,
    function* () {
      yield* tell('Its pin moves now. Watch it.');
      const problem = yield* askAll(['M401', 'G4 S1', 'M402', 'G4 S1']);
      return problem ? ended(problem) : yield* see({ text: 'What did the pin do?', about: id, choices: IN_OUT });
    },
  ); // prettier-ignore

function inTheAir({ id, type }: PlacedPart<PartOf<'probe'>>, moves: boolean): Proof {
  const input = switchInput(id, 'probe');
  const held = type.sense === 'inductive' ? 'a piece of metal' : 'something flat';
  const text = type.sense === 'nozzle' ? 'Press the nozzle up with a stick, then let go.' : `Hold ${held} under the probe, then take it away.`; // prettier-ignore
  const work: HandWork = { do: 'press', part: id, label: type.sense === 'nozzle' ? 'Press the nozzle up' : `Hold ${held} under the probe` }; // prettier-ignore
  return proof(
    {
      id: 'probe',
      title: 'The probe triggers in mid-air',
      act: `${moves ? 'Let the probe out high above the plate. ' : ''}${text} It must trigger before it is ever trusted over the plate.`,
      caution: 'A probe that does not trigger lets the nozzle ram the plate. Test it in the air.',
      restsOn: RESTS_ON,
      after: moves ? ['probe-moves'] : ['identity'],
      causes: inputCauses(type),
    },
    function* () {
      const out = yield* ask('M401');
      if (out.problem) return ended(out);
      const result = yield* readBothWays(input, work, text);
      yield* ask('M402');
      return result;
    },
    (read) => judgeBothWays(input, read),
  );
}

const alarm = ({ id }: PlacedPart<PartOf<'probe'>>): Proof =>
  proof(
    {
      id: 'probe-alarm',
      title: 'The probe says when it is stuck, and can be freed',
      act: 'Hold something tight under the probe while it is let out. The board must say that it is stuck. Take it away and free it: then it must say nothing.',
      restsOn: RESTS_ON,
      after: ['probe'],
      causes: {
        'never says': [{ cause: 'The alarm is off, or the signal is not read while it is stuck', look: 'Switch the probe alarm on, build and flash.', at: 'settings' }],
        'stays stuck': [{ cause: 'Its pin is bent or dirty', look: 'Power off. Push it in with a finger: it must slide.' }],
      },
    },
    function* (): Run<{ stuck: string | undefined; free: string | undefined }> {
      const work: HandWork = { do: 'press', part: id, label: 'Hold something tight under the probe' };
      const held = yield* confirm('Hold something tight under the probe.', 'I hold it', work, true);
      if ('ended' in held) return held;
      const stuck = (yield* ask('probe clear')).problem;
      const away = yield* confirm('Take it away.', 'It is away', work, false);
      if ('ended' in away) return away;
      const free = (yield* ask('probe clear')).problem;
      const at = replies(yield* ask('M119'), 'switch')[0]?.values['probe'];
      return seen({ stuck, free: free ?? (at === 'open' ? undefined : `it reads ${at}`) });
    },
    ({ stuck, free }) => {
      if (stuck === undefined) return found('never says', 'held, and it said nothing');
      return free === undefined ? proven(`held: ${stuck}`, 'freed: it says nothing more') : found('stays stuck', `held: ${stuck}`, `freed: ${free}`);
    },
  ); // prettier-ignore
