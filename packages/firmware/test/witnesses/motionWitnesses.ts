import { AXES, MOTOR_AXES, type MotorAxis } from '@jolly/core/machine/machine';
import { own } from '../fixtures/builtMachine';
import { closing, COLD_FEED, last, seconds, seen, SLOW_DRIVERS, told, type Witness, zigzag } from './witness';

const SPEEDS: Record<MotorAxis, [number, number]> = { x: [15, 150], y: [15, 150], z: [2, 15], e: [2, 40] };
const ACCELS: Record<MotorAxis, [number, number]> = {
  x: [20, 900],
  y: [20, 900],
  z: [5, 100],
  e: [20, 2000],
};
const STEPS: Record<MotorAxis, [number, number]> = {
  x: [50, 100],
  y: [50, 100],
  z: [200, 400],
  e: [100, 330],
};
const jog = (axis: string, mm: number) => `G1 ${axis.toUpperCase()}${mm} F6000`;
const rounded = (mm: number) => Math.round(mm * 10) / 10;

const ofAxis = (axis: MotorAxis): Witness[] => [
  { key: `steps.${axis}`, values: STEPS[axis], with: COLD_FEED, shows: moved(axis) },
  { key: `direction.${axis}`, values: [false, true], with: COLD_FEED, shows: moved(axis) },
  { key: `speed.${axis}`, values: SPEEDS[axis], with: COLD_FEED, shows: seconds('G91', jog(axis, 9)) },
  { key: `accel.${axis}`, values: ACCELS[axis], with: COLD_FEED, shows: seconds('G91', jog(axis, 9)) },
];

const moved =
  (axis: MotorAxis): Witness['shows'] =>
  (talk) => {
    const from = talk.bench.truth().position[axis];
    last('G91', jog(axis, 4), 'M400')(talk);
    return rounded(talk.bench.truth().position[axis] - from);
  };

/** Where the board says the machine ends. */
const volume: Witness['shows'] = (talk) => told('M115')(talk)?.find((line) => line.startsWith('volume'));

/** A corner in the plane; Z and the extruder turn back in theirs. */
const TURNS: Record<MotorAxis, [string, string]> = {
  x: ['G1 X1 Y0.5 F6000', 'G1 X-1 Y0.5'],
  y: ['G1 Y1 X0.5 F6000', 'G1 Y-1 X0.5'],
  z: ['G1 X3 F6000', 'G1 X3 Z0.3'],
  e: ['G1 X2 E1 F3000', 'G1 X2 E-1'],
};
const JOLTS: Record<MotorAxis, [number, number]> = { x: [0.3, 20], y: [0.3, 20], z: [0.05, 2], e: [0.3, 20] };

export const motionWitnesses: Witness[] = [
  ...MOTOR_AXES.flatMap(ofAxis),
  ...AXES.flatMap((axis): Witness[] => [
    { key: `travel.${axis}.min`, values: [0, 20], shows: volume },
    { key: `travel.${axis}.max`, values: [100, 200], shows: volume },
  ]),
  ...(['x', 'y'] as const).flatMap((axis): Witness[] => [
    { key: `bed.${axis}.min`, values: [0, 10], shows: volume },
    { key: `bed.${axis}.max`, values: [180, 190], shows: volume },
  ]),
  { key: 'frame.kinematics', values: ['plain', 'cross-belt'], shows: seen(({ position }) => [rounded(position.x), rounded(position.y)], 'G91', 'G1 X4 F600', 'M400') }, // prettier-ignore
  { key: 'limits.lift', values: [false, true], shows: last('G28', 'limits off', 'G1 Z-1') },
  { key: 'corner.by', values: ['jolt', 'deviation'], with: [own('corner.deviation', 0.2), own('corner.jolt.x', 0.3), own('corner.jolt.y', 0.3)], shows: zigzag('G1 X2 F6000', 'G1 Y2') }, // prettier-ignore
  { key: 'corner.deviation', values: [0.001, 0.3], with: [own('corner.by', 'deviation')], shows: zigzag('G1 X2 F6000', 'G1 Y2') }, // prettier-ignore
  ...MOTOR_AXES.map((axis): Witness => ({
    key: `corner.jolt.${axis}`,
    values: JOLTS[axis],
    with: [...COLD_FEED, own('corner.by', 'jolt')],
    shows: zigzag(...TURNS[axis]),
  })),
  { key: 'accel.smooth', values: [false, true], shows: seconds('G91', 'G1 X10 F9000') },
  { key: 'arcs.on', values: [false, true], shows: closing('G2 I1 J0') },
  { key: 'offsets.on', values: [false, true], shows: closing('G54') },
  { key: 'pulse.width', values: [0.5, 3], with: SLOW_DRIVERS, shows: moved('x') },
  { key: 'pulse.setup', values: [0.05, 1], shows: (talk) => { zigzag('G1 X1 F1200', 'G1 X-1')(talk); return rounded(talk.bench.truth().position.x * 10); } }, // prettier-ignore
  { key: 'extrude.from', values: [0, 170], shows: closing('G1 E1') },
  { key: 'filament.volumetric', values: [false, true], with: COLD_FEED, shows: seen(({ position }) => rounded(position.e), 'G1 E10 F300', 'M400') }, // prettier-ignore
  { key: 'filament.diameter', values: [1.75, 3], with: [...COLD_FEED, own('filament.volumetric', true)], shows: seen(({ position }) => rounded(position.e), 'G1 E10 F300', 'M400') }, // prettier-ignore
  { key: 'lead.on', values: [false, true], with: [...COLD_FEED, own('lead.time', 0.2)], shows: halfWay },
  { key: 'lead.time', values: [0.02, 0.4], with: [...COLD_FEED, own('lead.on', true)], shows: halfWay },
];

/** How much filament has gone while a long line is under way. */
function halfWay(talk: Parameters<Witness['shows']>[0]): number {
  last('G28', 'G1 X10 Y100 F9000', 'M400', 'G1 X190 E30 F3000')(talk);
  talk.bench.advance(1.5);
  return rounded(talk.bench.truth().position.e);
}
