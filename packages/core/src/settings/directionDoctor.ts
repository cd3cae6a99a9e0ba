import type { Edit } from '../machine/edit';
import { driverOf, type Facts, partFor } from '../machine/facts';
import type { MotorAxis } from '../machine/machine';
import { CalcError } from '../calculation/calculation';
import { crossBeltDirections } from '../motion/crossBeltDirections';
import { type Settings } from './setting';
import { NOTHING_MOVED } from './ways';

/** What was asked of an axis, and what it did. */
export interface Observation {
  asked: '+x' | '-x' | '+y' | '-y' | '+z' | '-z' | '+e' | '-e';
  moved: string;
}

/** What to do about it. */
export type Diagnosis =
  | { kind: 'fine' }
  /** `also` is what else was seen and cannot be settled from here. */
  | { kind: 'change'; steps: DoctorStep[]; also: string[] }
  | { kind: 'dead'; axis: MotorAxis; why: string }
  | { kind: 'contradiction'; why: string }
  | { kind: 'more'; why: string };

export interface DoctorStep {
  what: string;
  because: string;
  edits: Edit[];
}

const upper = (axis: string) => (axis === 'e' ? 'extruder' : axis.toUpperCase());

/**
 * From "I asked for +X and it moved back" to what to change: the fact which way the shaft turns (the setting
 * follows from it), a value of the machine's own that stands in the way, or plugs that are exchanged. On a frame
 * where two motors share the belt, X and Y are judged together.
 */
export function directionDoctor(
  facts: Facts,
  settings: Settings,
  observed: readonly Observation[],
): Diagnosis {
  const crossBelt = facts.machine.frame.kinematics === 'cross-belt';
  const single = observed.filter(({ asked }) => !crossBelt || /[ze]/.test(asked));
  const belt = observed.filter(({ asked }) => crossBelt && /[xy]/.test(asked));
  const found: Diagnosis[] = [
    ...single.map((entry) => ofOneMotor(facts, settings, entry, observed)),
    ...(belt.length > 0 ? [ofTwoMotors(facts, settings, belt)] : []),
  ];
  const steps = found.flatMap((entry) => (entry.kind === 'change' ? entry.steps : []));
  const once = steps.filter((step, index) => steps.findIndex(({ what }) => what === step.what) === index);
  const trouble = found.filter((entry) => 'why' in entry);
  // What one axis hides says nothing about the others.
  if (once.length > 0) return { kind: 'change', steps: once, also: trouble.map(({ why }) => why) };
  const [first, ...others] = trouble;
  if (!first) return { kind: 'fine' };
  return { ...first, why: [first, ...others].map(({ why }) => why).join(' ') };
}

function ofOneMotor(
  facts: Facts,
  settings: Settings,
  { asked, moved }: Observation,
  all: readonly Observation[],
): Diagnosis {
  // An observed way is a sign and an axis.
  const axis = asked[1] as MotorAxis;
  const opposite = `${asked[0] === '+' ? '-' : '+'}${axis}`;
  const others = all.filter((entry) => entry.asked[1] === axis && entry.moved !== NOTHING_MOVED);
  const turns = new Set(others.map((entry) => entry.moved === entry.asked));
  if (moved === NOTHING_MOVED)
    return {
      kind: 'dead',
      axis,
      why: `The ${upper(axis)} motor does not move: look at its driver, its plug and a crossed coil pair.`,
    };
  if (turns.size > 1)
    return {
      kind: 'contradiction',
      why: `${upper(axis)} moved the right way once and the wrong way once. A loose plug or a lost step does that; try both again.`,
    };
  if (moved === asked) return { kind: 'fine' };
  if (moved === opposite) return { kind: 'change', steps: [turn(facts, settings, axis)], also: [] };
  const other = moved.replace(/[+-]/g, '');
  return {
    kind: 'change',
    also: [],
    steps: [
      {
        what: `Exchange the plugs of ${upper(axis)} and ${upper(other)}`,
        because: `${asked} moved ${upper(other)}: the two motors are plugged into each other's sockets. Unplug the supply first, then ask again.`,
        // The plan stays: the plugs are put where it says.
        edits: [],
      },
    ],
  };
}

/** Which way a shaft would turn towards plus if a direction setting were right. */
function plusFrom(facts: Facts, axis: MotorAxis, high: boolean): 'clockwise' | 'anticlockwise' {
  const motor = partFor(facts, 'motor', axis);
  const turned = motor?.landing !== undefined && 'turned' in motor.landing && motor.landing.turned === true;
  const flips = driverOf(facts, motor)?.type.flips === true;
  return [high, flips, turned].filter(Boolean).length % 2 === 1 ? 'anticlockwise' : 'clockwise';
}

/** Turning a motor round: the fact about its shaft, and a value of the machine's own that would hide it. */
function turn(facts: Facts, settings: Settings, axis: MotorAxis): DoctorStep {
  const key = `direction.${axis}`;
  const setting = settings.get(key);
  if (setting?.hidden?.source === 'derived' && setting.hidden.value !== setting.value)
    return {
      what: `Reset ${key} to what the facts say`,
      because: `your own value turns it the wrong way; ${setting.hidden.because}`,
      edits: [{ path: ['settings', key] }],
    };
  // Nobody has said which way: it was taken as the setting has it.
  const now = facts.machine.axes[axis].plus_is ?? plusFrom(facts, axis, setting?.value === true);
  const then = now === 'clockwise' ? 'anticlockwise' : 'clockwise';
  return {
    what: `${upper(axis)}: towards plus its shaft turns ${then}, not ${now}`,
    because: `with ${driverOf(facts, partFor(facts, 'motor', axis))?.type.name ?? 'its driver'} and its plug as they are, ${key} follows from it and becomes ${setting?.value ? 'off' : 'on'}`,
    edits: [
      { path: ['axes', axis, 'plus_is'], value: then },
      ...(setting?.hidden ? [{ path: ['settings', key] }] : []),
    ],
  };
}

function ofTwoMotors(facts: Facts, settings: Settings, observed: readonly Observation[]): Diagnosis {
  if (observed.some(({ moved }) => moved === NOTHING_MOVED))
    return {
      kind: 'contradiction',
      why: 'With two motors on one belt at least one of them moves something. Nothing moved: look at the enable lines and the supply.',
    };
  try {
    const verdict = crossBeltDirections({
      // Only ways of X and Y are left here.
      observed: observed as Parameters<typeof crossBeltDirections>[0]['observed'],
      invertedNow: {
        a: settings.get('direction.x')?.value === true,
        b: settings.get('direction.y')?.value === true,
      },
    });
    if ('deadMotor' in verdict)
      return {
        kind: 'dead',
        axis: verdict.deadMotor === 'A' ? 'x' : 'y',
        why: `Motor ${verdict.deadMotor} does not turn: everything goes along one diagonal. Look at its driver and plug.`,
      };
    if ('contradiction' in verdict) return { kind: 'contradiction', why: verdict.because };
    const steps: DoctorStep[] = [];
    if (verdict.swapMotors)
      steps.push({
        what: 'Exchange the plugs of motor A and motor B',
        because: 'X and Y answer for each other. Unplug the supply first.',
        edits: [],
      });
    if (verdict.toggleA) steps.push(turn(facts, settings, 'x'));
    if (verdict.toggleB) steps.push(turn(facts, settings, 'y'));
    return steps.length > 0 ? { kind: 'change', steps, also: [] } : { kind: 'fine' };
  } catch (error) {
    if (error instanceof CalcError)
      return { kind: 'more', why: 'Two motors share the belt: say what one X move and one Y move did.' };
    throw error;
  }
}
