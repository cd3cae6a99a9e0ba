import type { DriverMode } from '../board/jumper';
import { sameBoardType } from '../machine/same';
import type { SocketLanding } from '../machine/landing';
import type { PartOf } from '../parts/part';
import { charge, emptyJudged, type Judged } from './judged';
import type { WiredPart, WiringCase } from './wiringCase';

/** A driver with the motors it turns; they land together. Without a driver: motors that miss one. */
export interface Drive {
  axis: string;
  driver?: WiredPart & { type: PartOf<'driver'> };
  motors: WiredPart[];
}

/** Every driver with its motors; motors beyond the drivers of their axis share the first one. */
export function drivesOf(parts: readonly WiredPart[]): Drive[] {
  const motors = parts.filter((part) => part.type.kind === 'motor');
  const drivers = parts.filter((part): part is Drive['driver'] & object => part.type.kind === 'driver');
  const axes = [...new Set([...drivers, ...motors].map((part) => part.role))];
  return axes.flatMap((axis) => {
    const turning = motors.filter((part) => part.role === axis);
    const own = drivers.filter((part) => part.role === axis);
    if (own.length === 0) return turning.map((motor) => ({ axis, motors: [motor] }));
    return own.map((driver, index) => ({
      axis,
      driver,
      motors:
        index === 0
          ? [...turning.slice(0, 1), ...turning.slice(own.length)]
          : turning.slice(index, index + 1),
    }));
  });
}

/** Every part of a drive, the driver first. */
export const partsOfDrive = ({ driver, motors }: Drive): WiredPart[] => [
  ...(driver ? [driver] : []),
  ...motors,
];

/** Weighs a drive in a socket. */
export function judgeSocket(wiring: WiringCase, drive: Drive, landing: SocketLanding): Judged {
  const judged = emptyJudged(landing);
  const { board } = wiring;
  const socket = board.sockets.find((entry) => entry.id === landing.socket);
  if (!socket) {
    judged.breaks.push(`${board.name} has no socket ${landing.socket}`);
    return judged;
  }
  judged.takes.push(`socket:${socket.id}`);
  for (const line of ['step', 'dir'] as const) judged.takes.push(`pin:${socket[line]}`);
  const mode = drive.driver?.type.mode;
  if (mode && !modesOf(wiring, socket.id).includes(mode))
    judged.breaks.push(`socket ${socket.id} of ${board.name} has no ${MODE_WORDS[mode]}`);
  if (mode === 'serial' && socket.serial)
    judged.takes.push(`address:${socket.serial.line}/${landing.address ?? socket.serial.address}`);
  if (mode === 'select' && socket.select !== undefined) judged.takes.push(`pin:${socket.select}`);
  // A jumper can part the stall output from the switch input; without one the input is taken.
  if (drive.driver?.type.stall && socket.stall !== undefined && !stallJumper(wiring, socket.id))
    judged.takes.push(`pin:${socket.stall}`);
  if (socket.for !== undefined && socket.for !== drive.axis)
    charge(judged, 'other-socket', `${socket.id} is printed for ${socket.for.toUpperCase()}`);
  const mover = partsOfDrive(drive)[0];
  const before = mover && wiring.before?.harness[mover.id];
  if (
    wiring.before &&
    sameBoardType(wiring.before.board, board) &&
    before &&
    'socket' in before &&
    before.socket !== socket.id
  )
    charge(judged, 'moved', `${before.socket} to ${socket.id}`);
  return judged;
}

const MODE_WORDS: Record<DriverMode, string> = {
  serial: 'serial line',
  select: 'select line',
  'stand-alone': 'place for a stand-alone module',
};

const stallJumper = ({ board }: WiringCase, socket: string) =>
  board.jumpers?.some((jumper) => jumper.sets === 'stall line' && jumper.of === socket);

/** The modes a driver in this socket can be run in. */
export function modesOf({ board }: Pick<WiringCase, 'board'>, id: string): DriverMode[] {
  const socket = board.sockets.find((entry) => entry.id === id);
  if (!socket) return [];
  return ['stand-alone', ...(socket.serial ? ['serial' as const] : []), ...(socket.select !== undefined ? ['select' as const] : [])]; // prettier-ignore
}
