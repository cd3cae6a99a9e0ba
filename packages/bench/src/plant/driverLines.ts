import { lineNumber } from '@jolly/core/circuit/driverLine';
import { driverOf as driverPartOf, type Facts, partsOf, socketOf } from '@jolly/core/machine/facts';
import type { Driver } from './driver';
import type { Live } from './live';

/** Driver modules as firmware speaks to them: by line and address, or with line 0 by the pin that selects them. */
export interface DriverLines {
  tell(line: number, address: number, what: number, value: number): void;
  /** −1 where nobody answers. */
  ask(line: number, address: number, what: number): number;
}

/** What is told and asked, see hw.h. */
const CURRENT_MA = 0;
const FORCE_FROM = 1;
const STALL_LEVEL = 2;
const STATE = 3;
const DEGREES = 4;
const IS_HOT = 1;
const IS_OFF = 2;
const IS_OPEN = 4;
const HOT_C = 120;

/** A module and the motor that hangs on it. */
export interface Module {
  motorPart: string;
  driverPart: string;
  driver: Driver;
  /** It is enabled. */
  on(): boolean;
}

/** Whether a socket's jumper lets its module be spoken to; where nobody has looked, it stands right. */
function listens({ board, machine }: Facts, socket: string, mode: string): boolean {
  const jumper = board.jumpers?.find(({ sets, of }) => sets === 'driver mode' && of === socket);
  const position = jumper?.positions.find(({ id }) => id === machine.jumpers?.[jumper.id]);
  return position?.mode === undefined || position.mode === mode;
}

/** Every module that listens, by where it is spoken to. */
export function driverLines(live: Live, modules: readonly Module[], now: () => number): DriverLines {
  const { facts } = live;
  const reached = new Map<string, Module>();
  for (const part of partsOf(facts, 'driver')) {
    const socket = facts.board.sockets.find(({ id }) => id === socketOf(part));
    const module = modules.find(({ driverPart }) => driverPart === part.id);
    if (!socket || !module || !listens(facts, socket.id, part.type.mode)) continue;
    if (part.type.mode === 'serial' && socket.serial)
      reached.set(`${lineNumber(socket.serial.line)} ${socket.serial.address}`, module);
    if (part.type.mode === 'select' && socket.select !== undefined) reached.set(`0 ${socket.select}`, module);
  }
  const at = (line: number, address: number) => {
    const module = reached.get(`${line} ${address}`);
    return module && !live.supplyOff && !live.deadDrivers.has(module.driverPart) ? module : undefined;
  };
  const open = ({ motorPart }: Module) =>
    live.deadMotors.has(motorPart) || !plugged(facts, motorPart) ? IS_OPEN : 0;
  return {
    tell(line, address, what, value) {
      const driver = at(line, address)?.driver;
      if (what === CURRENT_MA) driver?.tellAmps(value / 1000);
      if (what === FORCE_FROM) driver?.forceFrom(value);
      if (what === STALL_LEVEL) driver?.stallLevel(value);
    },
    ask(line, address, what) {
      const module = at(line, address);
      if (!module) return -1;
      module.driver.warm(now(), module.on());
      const degrees = module.driver.temperatureC();
      if (what === DEGREES) return Math.round(degrees);
      if (what !== STATE) return 0;
      return (degrees > HOT_C ? IS_HOT : 0) | (module.driver.shutDown() ? IS_OFF : 0) | open(module);
    },
  };
}

const plugged = (facts: Facts, motorPart: string): boolean => {
  const motor = facts.parts.find(({ id }) => id === motorPart);
  return driverPartOf(facts, motor) !== undefined;
};
