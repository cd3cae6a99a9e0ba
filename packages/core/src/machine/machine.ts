import Joi from 'joi';
import type { Span } from '../settings/probeReach';

export const AXES = ['x', 'y', 'z'] as const;
export const MOTOR_AXES = ['x', 'y', 'z', 'e'] as const;
export type Axis = (typeof AXES)[number];
export type MotorAxis = (typeof MOTOR_AXES)[number];
export const HEATED = ['hotend', 'bed'] as const;
export type Heated = (typeof HEATED)[number];

export type Kinematics = 'moving-bed' | 'lifting-bed' | 'cross-belt';
export type SettingValue = number | boolean | string;

interface DriveFacts {
  gear_ratio?: number;
  /** The way the motor's shaft turns, seen from the shaft, while the axis goes towards plus. */
  plus_is: 'clockwise' | 'anticlockwise';
  max_speed_mm_s: number;
  max_accel_mm_s2: number;
}
export type AxisDrive = DriveFacts &
  (
    | { kind: 'belt'; pitch_mm: number; teeth: number }
    | { kind: 'screw'; lead_mm: number }
    | { kind: 'roller'; diameter_mm: number }
  );

export interface MachinePart {
  id: string;
  /** Id of the part in the catalogue. */
  part: string;
  /** What it serves: an axis, a heated body, or a place. */
  role: string;
  microsteps?: number;
}

/** Where a part is connected: a driver socket, or a header contact for every lead. */
export type Landing = { socket: string; turned?: boolean } | { leads: Record<string, string> };

export interface ProbeMount {
  side: 'left' | 'right';
  side_mm: number;
  face: 'front' | 'back';
  face_mm: number;
  /** Measured; negative. Missing until it has been measured. */
  z_mm?: number;
}

export interface OwnSetting {
  value: SettingValue;
  source: 'override' | 'carried';
  because: string;
}

export interface Machine {
  jolly: 'machine/1';
  id: string;
  name: string;
  place: string;
  note?: string;
  kit: { id: string; version: string };
  board: { id: string; revision: string };
  supply: { volts_v: number; amps_a: number };
  frame: {
    kinematics: Kinematics;
    travel_mm: Record<Axis, Span>;
    bed_mm: { x: Span; y: Span };
    /** How far each axis can go before it meets the frame. */
    room_mm?: Partial<Record<Axis, number>>;
    /** The end of each axis that has its switch. */
    switch_at: Partial<Record<Axis, 'min' | 'max'>>;
  };
  axes: Record<MotorAxis, AxisDrive>;
  probe_mount?: ProbeMount;
  parts: MachinePart[];
  harness: Record<string, Landing>;
  settings: Record<string, OwnSetting>;
}

export const MACHINE_VERSION = 'machine/1';

const id = () =>
  Joi.string()
    .pattern(/^[a-z0-9]+(-[a-z0-9]+)*$/)
    .max(40);
const positive = () => Joi.number().greater(0).max(1e6);
const range = () =>
  Joi.array()
    .ordered(Joi.number().min(-2000).max(2000).required(), Joi.number().min(-2000).max(2000).required())
    .length(2)
    .custom((value: Span, helpers) =>
      value[0] < value[1]
        ? value
        : helpers.message({ custom: '{{#label}} must rise from its first to its second value' }),
    );

const drive = {
  gear_ratio: positive(),
  plus_is: Joi.valid('clockwise', 'anticlockwise').required(),
  max_speed_mm_s: positive().required(),
  max_accel_mm_s2: positive().required(),
  kind: Joi.valid('belt', 'screw', 'roller').required(),
  pitch_mm: Joi.when('kind', { is: 'belt', then: positive().max(20).required(), otherwise: Joi.forbidden() }),
  teeth: Joi.when('kind', {
    is: 'belt',
    then: Joi.number().integer().min(5).max(200).required(),
    otherwise: Joi.forbidden(),
  }),
  lead_mm: Joi.when('kind', {
    is: 'screw',
    then: positive().max(100).required(),
    otherwise: Joi.forbidden(),
  }),
  diameter_mm: Joi.when('kind', {
    is: 'roller',
    then: positive().max(100).required(),
    otherwise: Joi.forbidden(),
  }),
};

/** Guards where one part is connected. */
export const landingSchema = Joi.alternatives().conditional('.socket', {
  is: Joi.exist(),
  then: Joi.object({ socket: Joi.string().max(10).required(), turned: Joi.boolean() }),
  otherwise: Joi.object({
    leads: Joi.object()
      .pattern(
        Joi.valid('signal', 'supply', 'ground', 'control'),
        Joi.string().pattern(/^[A-Z0-9]+(-[A-Z0-9]+)*\.\d{1,2}$/, 'HEADER.contact'),
      )
      .min(1)
      .required(),
  }),
});

export const machineSchema = Joi.object<Machine>({
  jolly: Joi.valid(MACHINE_VERSION).required(),
  id: id().required(),
  name: Joi.string().min(1).max(40).required(),
  place: Joi.string().max(80).required(),
  note: Joi.string().max(2000),
  kit: Joi.object({ id: id().required(), version: Joi.string().max(20).required() }).required(),
  board: Joi.object({ id: id().required(), revision: Joi.string().max(12).required() }).required(),
  supply: Joi.object({
    volts_v: positive().max(60).required(),
    amps_a: positive().max(200).required(),
  }).required(),
  frame: Joi.object({
    kinematics: Joi.valid('moving-bed', 'lifting-bed', 'cross-belt').required(),
    travel_mm: Joi.object({ x: range().required(), y: range().required(), z: range().required() }).required(),
    bed_mm: Joi.object({ x: range().required(), y: range().required() }).required(),
    room_mm: Joi.object({ x: positive(), y: positive(), z: positive() }),
    switch_at: Joi.object({
      x: Joi.valid('min', 'max'),
      y: Joi.valid('min', 'max'),
      z: Joi.valid('min', 'max'),
    }).required(),
  }).required(),
  axes: Joi.object({
    x: Joi.object(drive).required(),
    y: Joi.object(drive).required(),
    z: Joi.object(drive).required(),
    e: Joi.object(drive).required(),
  }).required(),
  probe_mount: Joi.object<ProbeMount>({
    side: Joi.valid('left', 'right').required(),
    side_mm: Joi.number().min(0).max(200).required(),
    face: Joi.valid('front', 'back').required(),
    face_mm: Joi.number().min(0).max(200).required(),
    z_mm: Joi.number().min(-20).max(20),
  }),
  parts: Joi.array()
    .items(
      Joi.object<MachinePart>({
        id: id().required(),
        part: id().required(),
        role: id().required(),
        microsteps: Joi.valid(1, 2, 4, 8, 16, 32, 64, 128, 256),
      }),
    )
    .unique('id')
    .max(200)
    .required(),
  harness: Joi.object().pattern(id(), landingSchema).required(),
  settings: Joi.object()
    .pattern(
      Joi.string()
        .pattern(/^[a-z0-9]+([.-][a-z0-9]+)*$/)
        .max(60),
      Joi.object<OwnSetting>({
        value: Joi.alternatives(Joi.number(), Joi.boolean(), Joi.string().max(200)).required(),
        source: Joi.valid('override', 'carried').required(),
        because: Joi.string().min(1).max(500).required(),
      }),
    )
    .required(),
});
