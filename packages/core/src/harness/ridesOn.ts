import type { Axis, Kinematics, Machine, MachinePart } from '../machine/machine';

/** What moves a cable: the axes that its far end rides on. */
const HEAD: Record<Kinematics, Axis[]> = {
  'moving-bed': ['x', 'z'],
  'lifting-bed': ['x', 'y'],
  'cross-belt': ['x', 'y'],
};
const PLATE: Record<Kinematics, Axis[]> = {
  'moving-bed': ['y'],
  'lifting-bed': ['z'],
  'cross-belt': ['z'],
};
/** Parts of a role that sit on the head, on the plate, or on the beam that Z lifts. */
const ON_HEAD = new Set(['hotend', 'part', 'filament']);

/** The axes whose travel a part's cable follows; none for what sits still. */
export function ridesOn({ id, role }: MachinePart, kinematics: Kinematics): Axis[] {
  if (role === 'bed' || role === 'plate') return PLATE[kinematics];
  if (ON_HEAD.has(role) || id === 'probe' || id === 'e-motor' || id === 'x-switch') return HEAD[kinematics];
  return id === 'x-motor' && kinematics === 'moving-bed' ? ['z'] : [];
}

/** How much longer the way of a part's cable becomes with another travel, in mm; never shorter. */
export function wayGrows(machine: Machine, part: MachinePart, travel: Machine['frame']['travel_mm']): number {
  const length = ([from, to]: [number, number]) => to - from;
  return ridesOn(part, machine.frame.kinematics).reduce(
    (sum, axis) => sum + Math.max(0, length(travel[axis]) - length(machine.frame.travel_mm[axis])),
    0,
  );
}
