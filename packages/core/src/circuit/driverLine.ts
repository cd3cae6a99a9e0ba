import { driverOf, type Facts, partFor, type PlacedPart, socketOf } from '../machine/facts';
import { MOTOR_AXES } from '../machine/machine';
import { secondMotor } from '../machine/secondMotor';

/** How a module is spoken to: a serial line (from 1) and its address there, a select pin, or not at all. */
export type DriverLine = { line: number; address: number } | { select: number } | undefined;

/** The number of a board's serial line for drivers, `u1` being 1. */
export const lineNumber = (line: string): number => Number(/\d+/.exec(line)?.[0] ?? 1);

/** What the socket of a motor lets its module be told by; a module set by its pot is left alone. */
function driverLine(facts: Facts, motor: PlacedPart | undefined): DriverLine {
  const mode = driverOf(facts, motor)?.type.mode;
  const socket = facts.board.sockets.find(({ id }) => id === socketOf(motor));
  if (!socket || mode === undefined || mode === 'stand-alone') return undefined;
  if (mode === 'select') return socket.select === undefined ? undefined : { select: socket.select };
  return socket.serial && { line: lineNumber(socket.serial.line), address: socket.serial.address };
}

/** Of the modules of X, Y, Z and the extruder, then of a second Z and a second extruder. */
export const driverLines = (facts: Facts): DriverLine[] =>
  [
    ...MOTOR_AXES.map((axis) => partFor(facts, 'motor', axis)),
    secondMotor(facts, 'z'),
    secondMotor(facts, 'e'),
  ].map((motor) => driverLine(facts, motor));
