import type { Spoken } from '../finding/finding';
import type { AxisDrive } from '../machine/axisDrive';
import { driverOf, type Facts, partFor, partsOf, type PlacedPart, socketOf } from '../machine/facts';
import { type Machine, MOTOR_AXES, type MotorAxis } from '../machine/machine';
import type { Check } from './check';

const WHOSE: Record<keyof Machine['axes'], string> = { x: 'X', y: 'Y', z: 'Z', e: 'The extruder', e2: 'The second extruder' }; // prettier-ignore

/** A machine without a hot end, to draw or to mill, feeds nothing. */
const isNeeded = (facts: Facts, axis: MotorAxis): boolean =>
  axis !== 'e' || partFor(facts, 'heater', 'hotend') !== undefined;

/** Which motor it is was asked, and is a question of its own. */
const isAsked = ({ machine }: Facts, axis: MotorAxis): boolean =>
  machine.not_known?.includes(`motor.${axis}`) === true;

function noMotor(facts: Facts): Spoken[] {
  const crossed = facts.machine.frame.kinematics === 'cross-belt';
  return MOTOR_AXES.filter(
    (axis) => !partFor(facts, 'motor', axis) && isNeeded(facts, axis) && !isAsked(facts, axis),
  ).map((axis) => ({
    subject: { kind: 'fact', id: `axes.${axis}` },
    what: `${WHOSE[axis]} has no motor.`,
    why:
      crossed && (axis === 'x' || axis === 'y')
        ? 'Over crossed belts one motor alone pulls the head aslant. Say which motor it is.'
        : 'Nothing moves when it is asked to, and its steps are the kit’s. Say which motor it is.',
    evidence: [`no motor among the parts of ${facts.machine.name} has the role ${axis}`],
  }));
}

function microstepsUnknown(facts: Facts): Spoken[] {
  return partsOf(facts, 'motor').flatMap((motor) => {
    const driver = driverOf(facts, motor);
    if (!driver || driver.microsteps !== undefined) return [];
    return [
      {
        subject: aboutPart(driver.id),
        what: `How many microsteps does ${driver.id} make?`,
        why: 'Without it the steps per millimetre do not follow from the drive: they are the kit’s, and moves have another length than asked. Jumpers at the driver decide it, or the line it is told by.',
        evidence: [
          `${driver.type.name} drives ${motor.id}`,
          'the machine file says nothing of its microsteps',
        ],
      },
    ];
  });
}

/** What one socket cannot be shared by: two modules, or the motors of two axes. */
function socketShared(facts: Facts): Spoken[] {
  return facts.board.sockets.flatMap(({ id }): Spoken[] => {
    const here = facts.parts.filter((part) => socketOf(part) === id);
    const motors = here.filter(({ type }) => type.kind === 'motor');
    const drivers = here.filter(({ type }) => type.kind === 'driver');
    const roles = [...new Set(motors.map(({ role }) => role))];
    const evidence = here.map(({ id: part, role }) => `${part} in socket ${id}, serves ${role}`);
    const [, module] = drivers;
    const other = motors.find(({ role }) => role === roles[1]);
    return [
      ...(module
        ? [{ subject: aboutPart(module.id), what: `Socket ${id} would hold ${inList(drivers)}.`, why: 'One socket takes one module. Say where the other one sits.', evidence }]
        : []),
      ...(other
        ? [{ subject: aboutPart(other.id), what: `${inList(motors)} would turn together: they share socket ${id}.`, why: 'Two motors on one driver turn alike, which is right for two of one axis and wrong for these. Give each axis a socket.', evidence }]
        : []),
    ];
  });
} // prettier-ignore
const aboutPart = (id: string) => ({ kind: 'part' as const, id });
const inList = (parts: readonly PlacedPart[]): string => parts.map(({ id }) => id).join(' and ');

type Range = readonly [from: number, to: number];
type Size = 'pitch_mm' | 'teeth' | 'lead_mm' | 'diameter_mm' | 'gear_ratio';
/** Sizes of belts, screws and rollers as printers have them, from common practice: beyond lie slips of the keyboard. */
const USUAL: Readonly<Record<Size, { said: string; unit: string; usual: Range }>> = {
  pitch_mm: { said: 'mm from tooth to tooth of its belt', unit: 'mm', usual: [1, 6] },
  teeth: { said: 'teeth on its pulley', unit: 'teeth', usual: [8, 80] },
  lead_mm: { said: 'mm of rise in one turn of its screw', unit: 'mm', usual: [0.5, 32] },
  diameter_mm: { said: 'mm across its roller', unit: 'mm', usual: [4, 45] },
  gear_ratio: { said: 'turns of the motor for one of what it drives', unit: 'turns', usual: [0.2, 60] },
};

const sizeOf = (drive: AxisDrive, size: Size): number | undefined =>
  Object.entries(drive).find((entry): entry is [Size, number] => entry[0] === size)?.[1];

function unusualSize({ machine }: Facts): Spoken[] {
  return ([...MOTOR_AXES, 'e2'] as const).flatMap((axis) =>
    (['pitch_mm', 'teeth', 'lead_mm', 'diameter_mm', 'gear_ratio'] as const).flatMap((size): Spoken[] => {
      const drive = machine.axes[axis];
      const value = drive && sizeOf(drive, size);
      const { said, unit, usual } = USUAL[size];
      if (value === undefined || (value >= usual[0] && value <= usual[1])) return [];
      return [
        {
          subject: { kind: 'fact', id: `axes.${axis}.${size}` },
          what: `${WHOSE[axis]}: ${value} ${said} is unusual.`,
          why: 'Every length it moves follows from this. Look again; if it is so, set this aside.',
          evidence: [`axes.${axis}.${size}: ${value}`, `usual: ${usual[0]} to ${usual[1]} ${unit}`],
        },
      ];
    }),
  );
}

export const driveChecks: Check[] = [
  { id: 'motion.no-motor', severity: 'stop', run: noMotor },
  { id: 'socket.shared', severity: 'stop', run: socketShared },
  { id: 'motion.microsteps', severity: 'question', run: microstepsUnknown },
  { id: 'motion.drive-size', severity: 'note', run: unusualSize },
];
