import type { ImageHeader } from '../image/imageHeader';
import { type Facts, partFor, partsOf } from '../machine/facts';
import { AXES, HEATED } from '../machine/machine';
import { type Answer, ask, ended, type Procedure, replies, type Run, seen, tell } from './procedure';
import { readBothWays } from './readBothWays';
import { watchRelay } from './watchRelay';

/** What a bring-up test came to, with the replies it rests on. */
export interface Judged {
  outcome: 'proven' | 'failed';
  evidence: string[];
}

/** One step of bring-up as it is told. */
export interface ProofStep {
  id: string;
  title: string;
  /** What a person does, in one or two sentences. */
  act: string;
  caution?: string;
  /** The facts it rests on (see machine/touched.ts); when one of them changes, the proof is void. */
  restsOn: string[];
}

/** One step of bring-up with how it is carried out and judged. `built` is the header of the image that was built last. */
export interface Proof extends ProofStep {
  run(built: ImageHeader | undefined): Procedure<Judged>;
}

const failed = ({ problem = 'no reply', lines }: Answer): Judged => ({
  outcome: 'failed',
  evidence: [problem, ...lines],
});

/** A step whose run ends with what was seen, which is judged apart, or with the answer that ended it early. */
function proof<Seen>(
  step: ProofStep,
  run: () => Run<Seen>,
  judge: (seen: Seen, built: ImageHeader | undefined) => [ok: boolean, ...evidence: string[]],
): Proof {
  return {
    ...step,
    *run(built) {
      const result = yield* run();
      if ('ended' in result) return failed(result.ended);
      const [ok, ...evidence] = judge(result.seen, built);
      return { outcome: ok ? 'proven' : 'failed', evidence };
    },
  };
}

/** The temperatures a room may have, in °C. */
const ROOM_C = [5, 40] as const;

const identity = proof(
  {
    id: 'identity',
    title: 'The right image runs',
    act: 'Switch the power on and compare the name and build the board reports with what you built.',
    restsOn: ['board', 'kit', 'image'],
  },
  function* () {
    const answer = yield* ask('M115');
    const [who] = replies(answer, 'lantern');
    return who ? seen(who.values) : ended(answer);
  },
  (who, built) =>
    built
      ? [
          who['name'] === built.name && who['build'] === built.buildId,
          `board says ${who['name']}, build ${who['build']}`,
          `you built ${built.name}, build ${built.buildId}`,
        ]
      : [false, `board says ${who['name']}, build ${who['build']}`, 'which image was built is not known'],
);

const store = proof(
  {
    id: 'store',
    title: 'Stored settings are fresh',
    act: 'Reset the stored settings to those of the image and store them, so that old values cannot linger.',
    restsOn: ['board', 'kit', 'image'],
  },
  function* () {
    for (const line of ['M502', 'M500']) {
      const answer = yield* ask(line);
      if (answer.problem) return ended(answer);
    }
    const [state] = replies(yield* ask('M501'), 'store');
    return seen(state?.values['state']);
  },
  (state) => [state === 'loaded', `stored settings: ${state ?? 'no reply'}`],
);

const cold = proof(
  {
    id: 'cold',
    title: 'Temperatures plausible cold',
    act: 'Read every sensor with all heaters off. Each should show the temperature of the room.',
    restsOn: ['board', 'thermistor.*', 'landing.thermistor'],
  },
  function* () {
    return seen(replies(yield* ask('M105'), 'heat').map(({ values }) => values));
  },
  (bodies) => {
    const [low, high] = ROOM_C;
    const plausible = ({ now }: Record<string, string>) => Number(now) >= low && Number(now) <= high;
    return [
      bodies.length > 0 && bodies.every(plausible),
      ...bodies.map(({ body, now }) => `${body} reads ${now} °C; ${low} to ${high} °C is plausible`),
    ];
  },
);

const switchOf = (axis: string) => {
  const name = axis.toUpperCase();
  return proof(
    {
      id: `switch-${axis}`,
      title: `${name} switch reads both ways`,
      act: `Press the ${name} switch by hand and let go. The board should read it closed, then open.`,
      caution: 'Moving axes pinch. Keep motors idle and your fingers off belts.',
      restsOn: ['board', `switch.${axis}`, 'landing.switch', 'frame.switches'],
    },
    () => readBothWays(axis, `Press the ${name} switch on the bench, then let it go.`),
    ({ ok, evidence }) => [ok, evidence],
  );
};

const probe = proof(
  {
    id: 'probe',
    title: 'The probe triggers in mid-air',
    act: 'Deploy the probe high above the plate and hold something flat under it. It must trigger before it is ever trusted over the plate.',
    caution: 'A probe that does not trigger lets the nozzle ram the plate. Test it in the air.',
    restsOn: ['board', 'probe', 'probe-mount', 'landing.probe', 'supply'],
  },
  function* () {
    const out = yield* ask('M401');
    if (out.problem) return ended(out);
    const text = 'Hold something under the probe on the bench, then take it away.';
    const result = yield* readBothWays('probe', text);
    yield* ask('M402');
    return result;
  },
  ({ ok, evidence }) => [ok, evidence],
);

const relayOf = (body: string) =>
  proof(
    {
      id: `relay-${body}`,
      title: `The relay of the ${body === 'bed' ? 'bed' : 'hot end'} drops out`,
      act: 'Ask for a little heat, see the board switch the relay on, ask for none, and see it drop out: its lamp goes dark and the temperature stops rising.',
      caution:
        'A relay that sticks keeps the heater on. Keep a hand on the mains switch, and pull the plug if it does not drop out.',
      restsOn: ['board', `relay.${body}`, 'landing.relay', `heater.${body}`],
    },
    () => watchRelay(body),
    ({ ok, evidence }) => [ok, ...evidence],
  );

const home = proof(
  {
    id: 'home',
    title: 'It homes',
    act: 'Home all axes with one hand on the power switch.',
    caution:
      'An axis that runs the wrong way hits the frame. Keep a hand on the switch and stop it at the first wrong move.',
    restsOn: [
      'board', 'driver.*', 'motor.*', 'axis.x', 'axis.y', 'axis.z', 'plug.*', 'switch.*', 'probe', 'probe-mount',
      'frame.*', 'landing.switch', 'landing.probe', 'supply',
    ], // prettier-ignore
  },
  function* () {
    yield* tell('Homing. Keep a hand on the stop.');
    const answer = yield* ask('G28');
    if (answer.problem) return ended(answer);
    return seen(replies(yield* ask('M114'), 'at')[0]?.values);
  },
  (at) => [
    at?.['homed'] === 'xyz',
    `homed ${at?.['homed']}`,
    `at X ${at?.['x']}, Y ${at?.['y']}, Z ${at?.['z']} mm`,
  ],
);

/** What bring-up proves about a machine, in an order in which nothing can be hurt. */
export function proofsOf(facts: Facts): Proof[] {
  return [
    identity,
    store,
    cold,
    ...AXES.filter((axis) => partFor(facts, 'switch', axis)).map(switchOf),
    ...(partsOf(facts, 'probe').length > 0 ? [probe] : []),
    ...HEATED.filter((body) => partFor(facts, 'relay', body)).map(relayOf),
    home,
  ];
}

/** The same as it is told: what a person does, and what it rests on. */
export const proofSteps = (facts: Facts): ProofStep[] =>
  proofsOf(facts).map(({ run: _run, ...step }) => step);
