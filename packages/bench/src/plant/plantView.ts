import type { Facts } from '@jolly/core/machine/facts';
import type { MotorAxis } from '@jolly/core/machine/machine';
import type { Bodies } from './bodies';
import type { Contacts } from './contacts';
import type { Filament } from './filament';
import type { Frame } from './frame';
import { motorsWarm } from './motorsWarm';
import type { Nozzle } from './nozzle';
import { nozzleState } from './nozzleState';
import type { Outputs } from './outputs';
import type { Probe } from './probe';
import type { DriverTruth, PlantView, Truth } from './truth';

/** No motor steps so fast. */
const NEVER_RATE = 1e9;

/** Everything around a board that can be looked at. */
export interface Sights {
  facts: Facts;
  frame: Frame;
  bodies: Bodies;
  contacts: Contacts;
  probe: Probe | undefined;
  nozzle: Nozzle;
  outputs: Outputs;
  filament: Filament;
  secondFilament: Filament;
}

/** What a person at the bench can see, at a time in s. */
export function plantView(at: Sights, now: number): PlantView {
  const { facts, frame, bodies, contacts, probe, nozzle, outputs } = at;
  return {
    position: eachMotor((axis) => frame.position(axis)),
    secondFilamentMm: frame.secondFilament(),
    secondFedMm: at.secondFilament.fed(),
    temperatureC: Object.fromEntries(bodies.names().map((name) => [name, bodies.temperatureC(name, now)])),
    pressed: Object.fromEntries(
      [...contacts.switches.values()].map((part) => [part.id, contacts.pressed(part)]),
    ),
    ...(probe && {
      probe: { deployed: probe.deployed(now), triggered: probe.triggered(now), beside: probe.beside },
    }),
    blocked: frame.blocked(),
    hums: frame.humming(),
    motorsC: motorsWarm(facts, frame),
    nozzleInPlateMm: nozzle.inPlate(),
    underNozzleMm: nozzle.gap() ?? null,
    filamentMm: at.filament.fed(),
    fans: outputs.fanSpeeds(),
    lamps: outputs.lamps(),
    beeperHz: outputs.beeperHz(),
    servos: outputs.servos(),
  };
}

/** How it really is, at a time in s. */
export function plantTruth(at: Sights, seen: PlantView, now: number): Truth {
  const { frame, bodies, nozzle, outputs, filament } = at;
  const drivers = [...frame.drivers()].map(([axis, driver]): [string, DriverTruth] => [
    axis,
    {
      temperatureC: driver.temperatureC(),
      shutDown: driver.shutDown(),
      amps: driver.amps(),
      fullForceFrom: Math.min(driver.fullForceFrom(), NEVER_RATE),
    },
  ]);
  return {
    ...seen,
    lost: frame.lost(),
    duty: Object.fromEntries(bodies.names().map((name) => [name, bodies.duty(name)])),
    cycleS: outputs.cyclesS(),
    nozzleAbovePlateMm: seen.underNozzleMm,
    nozzle: nozzleState(seen.underNozzleMm ?? undefined, nozzle.dragged()),
    tiltMm: frame.tilt(),
    drivers: Object.fromEntries(drivers),
    filament: {
      fedMm: filament.fed(),
      slippedMm: filament.slipped(),
      ground: filament.ground(),
      outMm: filament.out(now),
    },
  };
}

const eachMotor = (of: (axis: MotorAxis) => number): Record<MotorAxis, number> => ({
  x: of('x'),
  y: of('y'),
  z: of('z'),
  e: of('e'),
});
