import { keysOf } from '../tree/keysOf';
import Joi from 'joi';
import { line, lines } from '../text/plainText';
import type { AxisDrive } from '../machine/axisDrive';
import type { Landing } from '../machine/landing';
import { machineSchema, MOTOR_AXES, type MotorAxis, type ProbeMount, WARMED, type Warmed } from '../machine/machine'; // prettier-ignore
import type { SettingValue } from '../kit/settingValue';
import { landingSchema } from '../machine/landing';
import type { Span } from '../probe/probeReach';
import { once } from '../tree/once';
import { id } from '../text/id';

interface Told {
  /** Its own id within a job. */
  id: string;
  because?: string;
}

/** How a probe will be mounted; what nobody measured yet is missing, and is asked for later. */
export type ChangeMount = Omit<ProbeMount, 'side_mm' | 'face_mm'> & Partial<ProbeMount>;

/** What a user means to change on a machine. */
export type Change = Told &
  (
    | { kind: 'new-board'; board: string; revision: string; harness?: Record<string, Landing> }
    | { kind: 'same-board' }
    | { kind: 'same-part'; part: string }
    | { kind: 'kit-version'; kit: string; version: string }
    | { kind: 'supply'; volts_v: number; amps_a: number }
    | { kind: 'drivers'; part: string; axes: MotorAxis[]; microsteps: number }
    | { kind: 'motor'; axis: MotorAxis | 'e2'; part: string }
    | { kind: 'drive'; axis: 'x' | 'y' | 'z'; drive: AxisDrive }
    /** Of the first or the second extruder; without `of` of all there are. */
    | { kind: 'extruder-drive'; of?: 'e' | 'e2'; drive: AxisDrive }
    | { kind: 'dual-z'; part: string; socket?: string }
    | { kind: 'frame-size'; bed_mm: { x: Span; y: Span }; travel_mm: Record<'x' | 'y' | 'z', Span> }
    | { kind: 'switch'; axis: 'x' | 'y' | 'z'; part: string; at?: 'min' | 'max'; landing?: Landing }
    | { kind: 'probe-added'; part: string; mount: ChangeMount; keep_switch: boolean; landing?: Landing }
    | { kind: 'probe-removed'; switch_part?: string; landing?: Landing }
    | { kind: 'probe-replugged'; landing: Landing }
    | { kind: 'hot-end'; heater: string; thermistor: string }
    /** A mains heater needs a relay, which is what the board switches; what the board switches has the landing. */
    | { kind: 'heater'; body: Warmed; part: string; relay?: string; landing?: Landing }
    | { kind: 'thermistor'; body: Warmed; part: string }
    | { kind: 'extra-thermistor'; role: string; part: string; landing?: Landing }
    | { kind: 'rewire'; part: string; landing: Landing }
    | { kind: 'nozzle' }
    | { kind: 'fan'; role: string; part: string; landing?: Landing }
    | { kind: 'filament-sensor'; part: string; landing?: Landing }
    | { kind: 'servo'; role: string; part: string; landing?: Landing }
    | { kind: 'display'; part: string; landing?: Landing }
    | { kind: 'lamp'; part: string; landing?: Landing }
    | { kind: 'feature'; key: string; value: SettingValue }
    | { kind: 'plate' }
    | { kind: 'belt'; axis: 'x' | 'y' }
  );
export type ChangeKind = Change['kind'];
export type ChangeOf<K extends ChangeKind> = Extract<Change, { kind: K }>;

/** The part of the machine's schema that guards the same value there. */
const part = (path: string[]) => machineSchema().extract(path);
const landing = () => landingSchema().optional();
const xyz = () => Joi.valid('x', 'y', 'z').required();
const body = () => Joi.valid(...WARMED).required();
const needed = () => id().required();
const drive = () => part(['axes', 'x']).required();

/** What each kind of change must tell. */
const FIELDS = once((): Record<ChangeKind, Joi.SchemaMap> => ({
  'new-board': {
    board: needed(),
    revision: line(12).required(),
    harness: part(['harness']).optional(),
  },
  'same-board': {},
  'same-part': { part: needed() },
  'kit-version': { kit: needed(), version: line(20).required() },
  supply: { volts_v: part(['supply', 'volts_v']), amps_a: part(['supply', 'amps_a']) },
  drivers: {
    part: needed(),
    axes: Joi.array()
      .items(Joi.valid('x', 'y', 'z', 'e'))
      .min(1)
      .unique()
      .required(),
    microsteps: Joi.valid(1, 2, 4, 8, 16, 32, 64, 128, 256).required(),
  },
  motor: { axis: Joi.valid(...MOTOR_AXES, 'e2').required(), part: needed() },
  drive: { axis: xyz(), drive: drive() },
  'extruder-drive': { of: Joi.valid('e', 'e2'), drive: drive() },
  'dual-z': { part: needed(), socket: line(10) },
  'frame-size': { bed_mm: part(['frame', 'bed_mm']), travel_mm: part(['frame', 'travel_mm']) },
  switch: { axis: xyz(), part: needed(), at: Joi.valid('min', 'max'), landing: landing() },
  'probe-added': {
    part: needed(),
    mount: Joi.object<ChangeMount>({
      side: Joi.valid('left', 'right').required(),
      face: Joi.valid('front', 'back').required(),
      side_mm: part(['probe_mount', 'side_mm']).optional(),
      face_mm: part(['probe_mount', 'face_mm']).optional(),
      z_mm: part(['probe_mount', 'z_mm']),
      stowed_mm: part(['probe_mount', 'stowed_mm']),
    }).required(),
    keep_switch: Joi.boolean().required(),
    landing: landing(),
  },
  'probe-removed': { switch_part: id(), landing: landing() },
  'probe-replugged': { landing: landingSchema().required() },
  'hot-end': { heater: needed(), thermistor: needed() },
  heater: { body: body(), part: needed(), relay: id(), landing: landing() },
  thermistor: { body: body(), part: needed() },
  'extra-thermistor': { role: needed(), part: needed(), landing: landing() },
  rewire: { part: needed(), landing: landingSchema().required() },
  nozzle: {},
  fan: { role: needed(), part: needed(), landing: landing() },
  'filament-sensor': { part: needed(), landing: landing() },
  servo: { role: needed(), part: needed(), landing: landing() },
  display: { part: needed(), landing: landing() },
  lamp: { part: needed(), landing: landing() },
  feature: {
    key: Joi.string().pattern(/^[a-z0-9]+([.-][a-z0-9]+)*$/).max(60).required(), // prettier-ignore
    value: Joi.alternatives(Joi.number(), Joi.boolean(), line(200)).required(),
  },
  plate: {},
  belt: { axis: Joi.valid('x', 'y').required() },
}));

/** Guards one change; what it must tell depends on its kind. */
export const changeSchema = once(() =>
  Joi.alternatives().conditional('.kind', {
    switch: keysOf(FIELDS()).map((kind) => ({
      is: kind,
      then: Joi.object({ id: needed(), kind: Joi.valid(kind), because: lines(300), ...FIELDS()[kind] }),
    })),
    otherwise: Joi.forbidden().messages({
      'any.unknown': `"kind" must be one of ${Object.keys(FIELDS()).join(', ')}`,
    }),
  }),
);
