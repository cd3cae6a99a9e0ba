import type { Edit } from '@jolly/core/machine/edit';
import { MOTOR_AXES } from '@jolly/core/machine/machine';
import { own } from '../fixtures/builtMachine';
import { TWO_EXTRUDERS } from '../../../core/test/fixtures/twoExtruders';
import { closing, seen, told, type Witness } from './witness';

const GAINS = { p: [5, 60], i: [0, 8], d: [0, 600] } as const;
const TOLD = [own('driver.line', 'serial')];

/** X or Y without a switch, on a module that reports a stall over a line that is tied. */
const stalling = (axis: 'x' | 'y'): Edit[] => {
  const nth = axis === 'x' ? 0 : 1;
  return [
    { path: ['harness', `${axis}-switch`] },
    { path: ['jumpers'], value: { [`STALL-M${nth + 1}`]: 'bridged' } },
  ];
};

/** Bittern's second Z motor on a driver of its own. */
const TWO_Z: Edit[] = [
  { path: ['parts', 17], value: { id: 'z2-driver', part: 'gannet-g5', role: 'z', microsteps: 16 } },
  { path: ['harness', 'z2-driver'], value: { socket: 'S5' } },
  { path: ['harness', 'z-motor-2'], value: { socket: 'S5' } },
];

/** A second extruder whose module hears its current. */
const TOLD_SECOND: Edit[] = [
  ...TWO_EXTRUDERS,
  own('extrude.from', 0),
  { path: ['parts', 17, 'part'], value: 'hush-wire' },
  { path: ['jumpers'], value: Object.fromEntries(['S1', 'S2', 'S4', 'S5'].map((socket) => [`MODE-${socket}`, 'bridged'])) },
  ...TOLD,
]; // prettier-ignore
const FED: Edit[] = [...TWO_EXTRUDERS, own('extrude.from', 0)];
const secondFed = (...lines: string[]) => seen(({ secondFilamentMm }) => Math.round(secondFilamentMm), 'T1', ...lines, 'M400'); // prettier-ignore

export const driverWitnesses: Witness[] = [
  { key: 'driver.line', values: ['pot', 'serial'], shows: seen(({ drivers }) => drivers.x?.amps) },
  ...MOTOR_AXES.flatMap((axis): Witness[] => [
    { key: `current.${axis}`, values: [0.4, 0.9], with: TOLD, shows: seen(({ drivers }) => drivers[axis]?.amps) }, // prettier-ignore
    { key: `torque.${axis}`, values: ['quiet', 'torque'], with: TOLD, shows: seen(({ drivers }) => drivers[axis]?.fullForceFrom) }, // prettier-ignore
  ]),
  { key: 'torque.from', values: [20, 100], with: [...TOLD, own('torque.x', 'by-speed')], shows: seen(({ drivers }) => drivers.x?.fullForceFrom) }, // prettier-ignore
  { key: 'driver.report', values: [false, true], with: TOLD, shows: (talk) => { talk.bench.advance(2); return told('state')(talk)?.filter((line) => line.startsWith('driver')); } }, // prettier-ignore
  ...(['x', 'y'] as const).flatMap((axis): Witness[] => [
    { key: `stall.${axis}`, values: [false, true], with: stalling(axis), shows: closing(`G28 ${axis.toUpperCase()}`) }, // prettier-ignore
    { key: `stall.level.${axis}`, values: [10, 120], with: [...stalling(axis), own(`stall.${axis}`, true)], shows: seen(({ position }) => Math.round(position[axis]), `G28 ${axis.toUpperCase()}`) }, // prettier-ignore
  ]),
  { key: 'extruder.second', values: [false, true], machine: 'bittern', with: FED, shows: (talk) => [closing('T1')(talk), secondFed('G1 E5 F300')(talk)] }, // prettier-ignore
  { key: 'steps.second-e', values: [80, 160], machine: 'bittern', with: FED, shows: secondFed('G1 E5 F300') }, // prettier-ignore
  { key: 'direction.second-e', values: [false, true], machine: 'bittern', with: FED, shows: secondFed('G1 E5 F300') }, // prettier-ignore
  // Too little to turn it.
  { key: 'current.second-e', values: [0.05, 0.8], machine: 'bittern', with: TOLD_SECOND, shows: secondFed('G1 E20 F1200') }, // prettier-ignore
  { key: 'sensor.second-hotend', values: ['t100-a', 't100-b'], machine: 'bittern', with: FED, shows: (talk) => { talk.bench.change((live) => void live.warmed.set('hotend-2', 70)); talk.bench.advance(5); return told('M105')(talk); } }, // prettier-ignore
  ...(['p', 'i', 'd'] as const).map((gain): Witness => ({ key: `pid.second-hotend.${gain}`, values: GAINS[gain], machine: 'bittern', with: FED, shows: (talk) => { talk.ask('M104 T1 S200'); return Array.from({ length: 30 }, () => { talk.bench.advance(6); return Math.round(talk.bench.truth().temperatureC['hotend-2'] ?? 0); }); } })), // prettier-ignore
  { key: 'second-z.on', values: [false, true], machine: 'bittern', with: TWO_Z, shows: seen(({ tiltMm }) => Math.round(tiltMm * 10), 'G28') }, // prettier-ignore
];
