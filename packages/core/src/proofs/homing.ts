import {
  type Answer,
  ask,
  askAll,
  type Choice,
  ended,
  type Procedure,
  replies,
  type Run,
  see,
  seen,
  tell,
} from '../bringup/procedure';
import { type Facts, partFor, partsOf } from '../machine/facts';
import type { Kit } from '../kit/kit';
import { reasonOf } from '../kit/reasonOf';
import { AXES, type Axis } from '../machine/machine';
import { isOn } from '../settings/understands';
import type { Settings } from '../settings/setting';
import { homed, travel } from './moves';
import { HOME_REASONS, homeCauses } from './homeCauses';
import { found, problemOf, type Proof, proof, proofBySight, proven, type Verdict } from './proof';

const MOVES_REST_ON = [
  'board', 'driver.*', 'motor.*', 'axis.x', 'axis.y', 'axis.z', 'plug.*', 'switch.*', 'probe', 'probe-mount',
  'frame.*', 'landing.switch', 'landing.probe', 'supply',
]; // prettier-ignore
/** What says where an axis begins. */
const ORIGIN = ['switch.*', 'probe', 'probe-mount'];
const PINCHES = 'Moving axes pinch. Keep a hand on the stop, and fingers off belts and screws.';

/** Its first homing, its limits, its whole travel, and whether it keeps its place. */
export const homingProofs = (facts: Facts, settings: Settings): Proof[] => [
  homeProof(facts),
  limitsProof(facts),
  ...AXES.filter((axis) => axis !== 'z' && isOn(settings, `stall.${axis}`)).map(stallProof),
  TRAVEL,
  ...(['x', 'y'] as const)
    .filter((axis) => partFor(facts, 'switch', axis) && facts.machine.frame.switch_at[axis] !== undefined)
    .map((axis) => placeProof(facts, axis)),
];

function homeProof(facts: Facts): Proof {
  const { kit } = facts;
  const inputs = AXES.filter((axis) => partFor(facts, 'switch', axis)).map((axis) => `switch-${axis}`);
  return proof(
    {
      id: 'home',
      title: 'It homes',
      act: 'Let the plate be far from the nozzle. Home all axes with one hand on the power switch.',
      caution: 'An axis that runs the wrong way hits the frame. Keep a hand on the switch and stop it at the first wrong move.',
      restsOn: MOVES_REST_ON,
      after: [...inputs, ...AXES.filter((axis) => partFor(facts, 'motor', axis)).map((axis) => `motor-${axis}`), ...(partsOf(facts, 'probe').length > 0 ? ['probe'] : [])],
      causes: homeCauses(facts),
    },
    function* (): Run<Verdict> {
      yield* tell('Homing. Keep a hand on the stop.');
      const answer = yield* ask('G28');
      if (answer.problem) return whyNotHomed(kit, answer);
      const at = replies(yield* ask('M114'), 'at')[0]?.values;
      if (!at) return ended({ lines: answer.lines, problem: 'the board does not tell its place' });
      const evidence = [`homed ${at['homed']}`, `at X ${at['x']}, Y ${at['y']}, Z ${at['z']} mm`];
      return seen(at['homed'] === 'xyz' ? proven(...evidence) : found('not all', ...evidence));
    },
    (verdict) => verdict,
  );
} // prettier-ignore

/** What homing was found to be by the reason the board told; any other answer ends the step. */
function whyNotHomed(kit: Kit, answer: Answer): { seen: Verdict } | { ended: Answer } {
  const reason = reasonOf(kit, answer.problem ?? '') ?? '';
  const known = Object.hasOwn(HOME_REASONS, reason) ? HOME_REASONS[reason] : undefined;
  return known ? seen(found(known.finding, ...problemOf(answer))) : ended(answer);
}

/** So far beyond its travel an axis is asked to go, in mm. */
const BEYOND_MM = 3;
interface Refusals {
  asked: { line: string; answer: string; moved: boolean }[];
}

const limitsProof = ({ kit }: Facts): Proof => proof(
  {
    id: 'limits',
    title: 'It refuses to leave its travel',
    act: `Ask each axis for a place ${BEYOND_MM} mm beyond either end. The board must refuse, and nothing may move.`,
    caution: 'An axis without limits drives into its frame. Keep a hand on the stop.',
    restsOn: ['board', 'frame.*', 'image', ...ORIGIN],
    after: ['home'],
    causes: {
      moved: [
        { cause: 'The travel is set too large, or limits are off', look: 'Measure the travel again and compare it with the machine file.', at: 'settings' },
        { cause: 'Limits were lifted and not put back', look: 'Send limits on, and test again.' },
      ],
      'not told': [{ cause: 'The image does not tell its travel', look: 'Is it the image you built?' }],
      refused: [{ cause: 'It has stopped, or an axis is not homed: then it refuses any move', look: 'Wake it, home all axes, and test again.' }],
    },
  },
  function* (): Run<Refusals> {
    const not = yield* homed();
    if (not) return ended(not);
    const spans = yield* travel();
    const asked: Refusals['asked'] = [];
    for (const axis of AXES)
      for (const place of beyond(spans[axis])) {
        const before = yield* ask('M114');
        const line = `G1 ${axis.toUpperCase()}${place} F600`;
        const { problem } = yield* ask(line);
        const moved = problem === undefined;
        if (moved) yield* ask('M112');
        // Who sleeps after a stop refuses everything, and shows nothing of its limits.
        else if (reasonOf(kit, problem) !== 'OUTSIDE') return ended({ lines: asked.map((one) => `${one.line}: ${one.answer}`), problem: `${line}: ${problem}` });
        const after = moved ? before : yield* ask('M114');
        if (placeOf(before) === undefined || placeOf(after) === undefined) return ended({ lines: after.lines, problem: 'the board does not tell its place' });
        asked.push({ line, answer: problem ?? 'done', moved: moved || placeOf(before) !== placeOf(after) });
        if (moved) return seen({ asked });
      }
    return seen({ asked });
  },
  ({ asked }): Verdict => {
    const evidence = asked.map(({ line, answer }) => `${line}: ${answer}`);
    if (asked.length < 2 * AXES.length && !asked.some(({ moved }) => moved)) return found('not told', ...evidence);
    return asked.some(({ moved }) => moved) ? found('moved', ...evidence) : proven(...evidence);
  },
); // prettier-ignore

const beyond = (span: readonly [number, number] | undefined): number[] =>
  span ? [span[0] - BEYOND_MM, span[1] + BEYOND_MM] : [];
/** Where the axes stand, in words; undefined where the board does not tell. */
const placeOf = (answer: Answer): string | undefined => {
  const at = replies(answer, 'at')[0]?.values;
  return at && AXES.map((axis) => at[axis] ?? '?').join(' ');
};

const GENTLE: readonly Choice[] = [
  { id: 'gentle', label: 'It touched the end and stopped at once' },
  { id: 'hammers', label: 'It hammered against the end' },
  { id: 'short', label: 'It stopped before the end' },
];

const stallProof = (axis: Axis): Proof => {
  const name = axis.toUpperCase();
  return proofBySight(
    {
      id: `stall-${axis}`,
      title: `${name} notices that it stands`,
      act: `Home ${name} from two places and watch its end: it touches, and stops at once.`,
      caution: PINCHES,
      restsOn: [...MOVES_REST_ON, 'image'],
      after: ['home'],
      causes: {
        hammers: [{ cause: 'It notices too late', look: 'Set the stall level more eager.', at: 'settings' }],
        short: [{ cause: 'It notices what is no end', look: 'Set the stall level less eager, and home faster.', at: 'settings' }],
        refused: [{ cause: 'It notices nothing', look: 'Look at the jumper of its stall output, and at the stall level.', at: 'wiring' }],
      },
    },
    GENTLE,
    function* () {
      const not = yield* homed();
      const span = (yield* travel())[axis];
      if (not || !span) return ended(not ?? { lines: [], problem: 'the board does not tell its travel' });
      yield* tell(`${name} homes twice. Watch its end.`);
      const middle = (span[0] + span[1]) / 2;
      const problem = yield* askAll([`G28 ${name}`, 'G90', `G1 ${name}${middle} F1200`, `G28 ${name}`]);
      return problem ? ended(problem) : yield* see({ text: 'How did it stop?', about: 'stall', choices: GENTLE });
    },
  ); // prettier-ignore
};

const CABLES: readonly Choice[] = [
  { id: 'clear', label: 'Nothing taut, rubbing, caught or hit' },
  { id: 'taut', label: 'A cable was taut, rubbed or caught' },
  { id: 'hit', label: 'It hit something' },
];

const TRAVEL: Proof = proofBySight(
  {
    id: 'travel',
    title: 'It reaches its whole travel, and no cable minds',
    act: 'Let each axis go slowly to both ends, Z to its full height, and watch every cable.',
    caution: PINCHES,
    // Another switch begins elsewhere, and a lead that was moved runs elsewhere.
    restsOn: ['board', 'frame.*', ...ORIGIN, 'axis.x', 'axis.y', 'axis.z', 'motor.*', 'plug.*', 'landing.*'],
    after: ['home', 'limits'],
    causes: {
      taut: [{ cause: 'A cable is too short or not tied', look: 'Power off. Give it a loop, and tie it where it moves.', at: 'wiring' }],
      hit: [{ cause: 'The travel is larger than the machine', look: 'Measure it again, with what was added.', at: 'settings' }],
    },
  },
  CABLES,
  function* () {
    const not = yield* homed();
    if (not) return ended(not);
    const spans = yield* travel();
    if (!AXES.every((axis) => spans[axis])) return ended({ lines: [], problem: 'the board does not tell its travel' });
    const up = spans.z ? [`G1 Z${spans.z[0] + 10} F300`] : [];
    const across = (['x', 'y'] as const).flatMap((axis) => (spans[axis] ?? []).map((place) => `G1 ${axis.toUpperCase()}${place} F1500`));
    const height = spans.z ? [`G1 Z${spans.z[1]} F600`, `G1 Z${spans.z[0] + 10} F600`] : [];
    yield* tell('Each axis goes slowly to both ends now. Watch the cables, and stop it if one is caught.');
    const problem = yield* askAll(['G90', ...up, ...across, ...height, 'M400']);
    return problem ? ended(problem) : yield* see({ text: 'What did you see?', about: 'travel', choices: CABLES });
  },
); // prettier-ignore

/** A switch is looked for from so far away, in steps of so much, and must be met within so much of where it was, in mm. */
const FROM_MM = 4;
const STEP_MM = 0.1;
const SAME_MM = 0.25;
const FAST_RUNS = 4;

/** Where a switch was met, in mm; undefined when it was not met on the way to the end. The answer that ended it, if one did. */
function* whereMet(
  axis: Axis,
  end: number,
  inward: 1 | -1,
): Procedure<{ at: number | undefined } | { ended: Answer }> {
  const name = axis.toUpperCase();
  for (let step = Math.round(FROM_MM / STEP_MM); step >= 0; step -= 1) {
    const place = end + inward * step * STEP_MM;
    const moved = yield* askAll([`G1 ${name}${place.toFixed(2)} F600`, 'M400']);
    if (moved) return ended(moved);
    if (replies(yield* ask('M119'), 'switch')[0]?.values[axis] === 'closed') return { at: place };
  }
  return { at: undefined };
}

function placeProof(facts: Facts, axis: 'x' | 'y'): Proof {
  const name = axis.toUpperCase();
  const high = facts.machine.frame.switch_at[axis] === 'max';
  const feed = Math.round((facts.machine.axes[axis].max_speed_mm_s ?? 100) * 60);
  return proof(
    {
      id: `place-${axis}`,
      title: `${name} keeps its place when it moves fast`,
      act: `Find where the ${name} switch is met, let ${name} run as fast as it may, and find it again: the same place.`,
      caution: PINCHES,
      restsOn: MOVES_REST_ON,
      after: ['home', 'limits'],
      causes: {
        lost: [
          { cause: 'The belt slips or its pulley turns on the shaft', look: 'Supply off. Tighten the belt and both grub screws.' },
          { cause: 'Its current is too low', look: 'Set it higher, and feel the motor after a minute.', at: 'settings' },
          { cause: 'Its current is too high: the driver shuts down when it is hot', look: 'Feel near the driver; set it lower.', at: 'settings' },
          { cause: 'It may not go so fast', look: 'Set its top speed or acceleration lower.', at: 'settings' },
        ],
        'not met': [{ cause: 'Its switch is not met within its travel', look: 'Measure where the switch is met.', at: 'settings' }],
      },
    },
    function* (): Run<{ before: number | undefined; after: number | undefined }> {
      const not = yield* homed();
      if (not) return ended(not);
      const span = (yield* travel())[axis];
      if (!span) return ended({ lines: [], problem: 'the board does not tell its travel' });
      const [end, far] = high ? [span[1], span[0]] : [span[0], span[1]];
      const inward = high ? -1 : 1;
      yield* ask('G90');
      const before = yield* whereMet(axis, end, inward);
      if ('ended' in before) return before;
      yield* tell(`${name} runs fast now.`);
      for (let run = 0; run < FAST_RUNS; run += 1)
        for (const place of [far - 5 * inward, end + 5 * inward]) {
          const answer = yield* ask(`G1 ${name}${place.toFixed(2)} F${feed}`);
          if (answer.problem) return ended(answer);
        }
      yield* ask('M400');
      const after = yield* whereMet(axis, end, inward);
      return 'ended' in after ? after : seen({ before: before.at, after: after.at });
    },
    ({ before, after }) => {
      const at = (place: number | undefined) => (place === undefined ? 'not met' : `met at ${place.toFixed(1)} mm`);
      const evidence = [`before: ${at(before)}`, `after ${FAST_RUNS} runs at ${feed / 60} mm/s: ${at(after)}`];
      if (before === undefined) return found('not met', ...evidence);
      return after !== undefined && Math.abs(after - before) <= SAME_MM ? proven(...evidence) : found('lost', ...evidence);
    },
  );
} // prettier-ignore
