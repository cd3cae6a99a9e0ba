import { keysOf } from '../tree/keysOf';
import Joi from 'joi';
import { line } from '../text/plainText';
import { once } from '../tree/once';
import { id } from '../text/id';

/** One conductor of a part, as the maker describes it. */
export interface Lead {
  role: 'signal' | 'supply' | 'ground' | 'control';
  /** What the landing's pin must be able to do. */
  needs?: 'in' | 'out' | 'adc' | 'pwm' | 'sw';
  /** An input that must be noticed at once. */
  interrupt?: boolean;
  /** The frequency a steered output needs; outputs on one timer share theirs. */
  pwm_hz?: number;
  /** The level from which a steered input reads high. */
  high_from_v?: number;
}

interface Described {
  jolly: 'part/1';
  id: string;
  name: string;
  leads: Lead[];
  /** Volts the supply lead wants. */
  supply_v?: number;
  /** Amperes drawn from the supply lead at most. */
  draws_a?: number;
}

export interface MotorPart extends Described {
  kind: 'motor';
  full_steps: number;
  rated_a: number;
  /** Of one winding. */
  ohms?: number;
}
export interface DriverPart extends Described {
  kind: 'driver';
  mode: 'stand-alone' | 'serial' | 'select';
  /** Turns a motor the other way round than the reference driver does. */
  flips: boolean;
  /** With the heat sink it comes with. */
  max_a: number;
  /** Without one, and with a fan blowing at it. */
  max_bare_a?: number;
  max_blown_a?: number;
  min_pulse_us: number;
  /** It reports a stalled motor on an output of its own. */
  stall?: boolean;
  /** Set by a pot: reference volts an ampere (rms); missing where the sense resistor is unknown. */
  volts_per_amp?: number;
}
export interface SwitchPart extends Described {
  kind: 'switch';
  contact: 'normally-closed' | 'normally-open';
  /** A sensor with electronics: how it speaks, at what level, and what it says when pressed. A lever has none. */
  output?: 'open-collector' | 'driven';
  output_v?: number;
  pressed?: 'low' | 'high';
}
export interface ProbePart extends Described {
  kind: 'probe';
  sense: 'pin' | 'inductive' | 'nozzle';
  /** `open-collector` pulls its output low when it triggers, and needs a pull-up. */
  output: 'open-collector' | 'driven';
  output_v: number;
  /** Level of the output while triggered. */
  triggered: 'low' | 'high';
  stroke_mm: number;
  servo_us?: { deploy: number; stow: number };
  /** Time its servo takes to arrive. */
  arrive_s?: number;
}
export interface ThermistorPart extends Described {
  kind: 'thermistor';
  r25: number;
  beta: number;
  max_c: number;
}
export interface HeaterPart extends Described {
  kind: 'heater';
  watts: number;
  volts: number;
  max_c: number;
  /** First order with dead time, at its rated power in still air; missing until somebody has seen it warm. */
  body?: { gain_c: number; tau_s: number; dead_s: number };
}
export interface FanPart extends Described {
  kind: 'fan';
}

export interface ServoPart extends Described {
  kind: 'servo';
  arrive_s?: number;
}
export interface FilamentSensorPart extends Described {
  kind: 'filament-sensor';
  output: 'switch' | 'open-collector';
}
export interface DisplayPart extends Described {
  kind: 'display';
  /** Signal contacts of the ribbon it uses; the others go through. */
  ribbon_pins: number;
  shows?: 'text' | 'pixel';
  /** It has a layer that is touched, and no knob. */
  touched?: boolean;
  /** Whether it draws by firmware of its own, or the board draws all of it; missing where nobody has looked. */
  firmware?: 'none' | 'own';
}
/** Switches what no board may: its input sits on a switched output, its contacts in a mains circuit. */
export interface RelayPart extends Described {
  kind: 'relay';
  /** What its contacts stand. */
  switches: { volts_v: number; amps_a: number };
  /** Shortest time from one switching on to the next that it stands for years, in s. */
  cycle_s: number;
}
export interface LampPart extends Described {
  kind: 'lamp';
}

export type Part =
  | MotorPart
  | DriverPart
  | SwitchPart
  | ProbePart
  | ThermistorPart
  | HeaterPart
  | FanPart
  | ServoPart
  | FilamentSensorPart
  | DisplayPart
  | LampPart
  | RelayPart;
export type PartKind = Part['kind'];
export type PartOf<K extends PartKind> = Extract<Part, { kind: K }>;

/** Whether a part is a probe beside the nozzle; a nozzle on a switch is its own. */
export const hangsBeside = (type: Part | undefined): boolean =>
  type?.kind === 'probe' && type.sense !== 'nozzle';

/** Above this a voltage can kill, and never meets a board's terminal. */
const LOW_VOLTAGE_V = 60;

export const isMains = (type: Part): boolean => type.kind === 'heater' && type.volts > LOW_VOLTAGE_V;

/** The volts a part is to be fed with by a board; of a heater those it gives its watts at. Undefined where nobody said. */
export const madeForVolts = (type: Part): number | undefined =>
  type.supply_v ?? (type.kind === 'heater' && !isMains(type) ? type.volts : undefined);

/** A heater that grows hotter than any bed. */
const HOTEND_FROM_C = 180;

/** Whether a heater is made for a body: cartridges for a hot end, mats and plates for a bed. */
export const heats = ({ max_c }: Pick<HeaterPart, 'max_c'>, body: string): boolean =>
  body === 'bed' ? max_c <= HOTEND_FROM_C : max_c > HOTEND_FROM_C;

/** Whether a part is connected to the board at all. */
export const isWired = (type: Part): boolean =>
  type.kind === 'motor' || type.kind === 'driver' || type.leads.length > 0;

const positive = () => Joi.number().min(1e-6).max(1e8);
const common = once(() => ({
  jolly: Joi.valid('part/1').required(),
  id: id().required(),
  name: line(80).required(),
  kind: line(20).required(),
  leads: Joi.array()
    .items(
      Joi.object<Lead>({
        role: Joi.valid('signal', 'supply', 'ground', 'control').required(),
        // Without it nobody could tell whether a contact serves it.
        needs: Joi.valid('in', 'out', 'adc', 'pwm', 'sw').when('role', {
          is: Joi.valid('signal', 'control'),
          then: Joi.required(),
        }),
        interrupt: Joi.boolean(),
        pwm_hz: positive(),
        high_from_v: positive(),
      }),
    )
    .required(),
  supply_v: positive(),
  draws_a: positive(),
}));

const byKind = once((): Record<PartKind, Joi.SchemaMap> => ({
  motor: {
    full_steps: Joi.number().integer().greater(0).required(),
    rated_a: positive().required(),
    ohms: positive(),
  },
  driver: {
    mode: Joi.valid('stand-alone', 'serial', 'select').required(),
    flips: Joi.boolean().required(),
    max_a: positive().required(),
    max_bare_a: positive(),
    max_blown_a: positive(),
    min_pulse_us: positive().required(),
    stall: Joi.boolean(),
    volts_per_amp: positive(),
  },
  switch: {
    contact: Joi.valid('normally-closed', 'normally-open').required(),
    output: Joi.valid('open-collector', 'driven'),
    output_v: positive(),
    pressed: Joi.valid('low', 'high'),
  },
  probe: {
    sense: Joi.valid('pin', 'inductive', 'nozzle').required(),
    output: Joi.valid('open-collector', 'driven').required(),
    output_v: positive().required(),
    triggered: Joi.valid('low', 'high').required(),
    stroke_mm: Joi.number().min(0).required(),
    servo_us: Joi.object({ deploy: positive().required(), stow: positive().required() }),
    arrive_s: positive(),
  },
  thermistor: { r25: positive().required(), beta: positive().required(), max_c: positive().required() },
  heater: {
    watts: positive().required(),
    volts: positive().required(),
    max_c: positive().required(),
    body: Joi.object({
      gain_c: positive().required(),
      tau_s: positive().required(),
      dead_s: Joi.number().min(0).required(),
    }),
  },
  fan: {},
  servo: { arrive_s: positive() },
  'filament-sensor': { output: Joi.valid('switch', 'open-collector').required() },
  display: {
    ribbon_pins: Joi.number().integer().min(0).max(40).required(),
    shows: Joi.valid('text', 'pixel'),
    touched: Joi.boolean(),
    firmware: Joi.valid('none', 'own'),
  },
  lamp: {},
  relay: {
    switches: Joi.object({ volts_v: positive().required(), amps_a: positive().required() }).required(),
    cycle_s: positive().required(),
  },
}));

/** Guards one part file; what else it must hold depends on its `kind`. */
export const partSchema = once(() =>
  Joi.alternatives().conditional('.kind', {
    switch: keysOf(byKind()).map((kind) => ({
      is: kind,
      then: Joi.object({ ...common(), ...byKind()[kind] }),
    })),
    otherwise: Joi.forbidden().messages({
      'any.unknown': `"kind" must be one of ${Object.keys(byKind()).join(', ')}`,
    }),
  }),
);
