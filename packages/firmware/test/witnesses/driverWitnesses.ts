import type { Edit } from '@jolly/core/machine/edit';
import { MOTOR_AXES } from '@jolly/core/machine/machine';
import { own } from '../fixtures/builtMachine';
import { closing, seen, told, type Witness } from './witness';

/** Modules that hear over a line. */
export const TOLD = [own('driver.line', 'serial')];

/** X or Y without a switch, on a module that reports a stall over a line that is tied. */
export const stalling = (axis: 'x' | 'y'): Edit[] => {
  const nth = axis === 'x' ? 0 : 1;
  return [
    { path: ['harness', `${axis}-switch`] },
    { path: ['jumpers'], value: { [`STALL-M${nth + 1}`]: 'bridged' } },
  ];
};

/** Bittern's second Z motor on a driver of its own. */
export const TWO_Z: Edit[] = [
  { path: ['parts', 17], value: { id: 'z2-driver', part: 'gannet-g5', role: 'z', microsteps: 16 } },
  { path: ['harness', 'z2-driver'], value: { socket: 'S5' } },
  { path: ['harness', 'z-motor-2'], value: { socket: 'S5' } },
];

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
  { key: 'second-z.on', values: [false, true], machine: 'bittern', with: TWO_Z, shows: seen(({ tiltMm }) => Math.round(tiltMm * 10), 'G28') }, // prettier-ignore
];
