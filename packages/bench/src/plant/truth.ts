import type { Axis, MotorAxis, Warmed } from '@jolly/core/machine/machine';

/** What a person at the bench can see. */
export interface PlantView {
  position: Record<MotorAxis, number>;
  temperatureC: Partial<Record<Warmed, number>>;
  pressed: Record<string, boolean>;
  /** `beside`: where it stands against the nozzle, mm, as a ruler shows it. */
  probe?: { deployed: boolean; triggered: boolean; beside: { x: number; y: number } };
  /** Steps lost against the frame, by axis. */
  blocked: Record<Axis, number>;
  /** Axes whose motor is heard to hum and does not turn. */
  hums: MotorAxis[];
  /** How warm each motor gets with its current, °C, as a hand feels after ten minutes of moves. */
  motorsC: Partial<Record<MotorAxis | 'e2', number>>;
  /** Depth in mm the nozzle was pushed into the plate, at worst. */
  nozzleInPlateMm: number;
  /** What is between nozzle and plate, mm, as a shim is felt there; null beside the plate. */
  underNozzleMm: number | null;
  /** How far the filament went, mm, as a mark on it shows. */
  filamentMm: number;
  /** mm that a second extruder has turned; 0 where there is none. */
  secondFilamentMm: number;
  /** mm of filament that a second extruder really fed. */
  secondFedMm: number;
  /** Share of its full speed, by part. */
  fans: Record<string, number>;
  /** Pulse width in µs, by part; 0 until it gets one. */
  servos: Record<string, number>;
  /** Share of its full light, by part. */
  lamps: Record<string, number>;
  /** The tone it gives; 0 while it is silent. */
  beeperHz: number;
}

/** How a module really stands. */
export interface DriverTruth {
  temperatureC: number;
  shutDown: boolean;
  amps: number;
  /** The rate of steps from which it gives its full force. */
  fullForceFrom: number;
}
/** Where a machine stood and how warm it was when its power went, and how long ago that is, in s. */
export interface Beginning {
  position: Record<MotorAxis, number>;
  temperatureC: Partial<Record<Warmed, number>>;
  offS: number;
}

/** How it really is, whatever anybody believes: for scripts and tests, never shown as the board's word. */
export interface Truth extends PlantView {
  /** Steps by axis that a motor had no force for, or no field. */
  lost: Record<MotorAxis, number>;
  duty: Partial<Record<Warmed, number>>;
  /** From one switching on to the next, in s, by part. */
  cycleS: Record<string, number>;
  /** Height of the nozzle above the plate below it; null beside the plate. */
  nozzleAbovePlateMm: number | null;
  nozzle: 'clear' | 'touches' | 'drags' | 'rams';
  tiltMm: number;
  drivers: Partial<Record<MotorAxis, DriverTruth>>;
  filament: { fedMm: number; slippedMm: number; ground: boolean; outMm: number };
}
