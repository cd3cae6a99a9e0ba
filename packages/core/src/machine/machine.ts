import Joi from 'joi';
import type { SupplySource } from '../board/net';
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
export type Landing = SocketLanding | LeadLanding;
export interface SocketLanding {
  socket: string;
  /** The motor's plug is in the other way round. */
  turned?: boolean;
  /** The address set on the driver itself, where it is not the socket's. */
  address?: number;
}
export interface LeadLanding {
  leads: Record<string, string>;
  /** What sits between the leads and the contacts. */
  with?: Adapter[];
}

/** Something small between a lead and its contact. */
export type Adapter =
  | { kind: 'divider'; lead: LeadRole; top_ohms: number; bottom_ohms: number }
  | { kind: 'pull-up'; lead: LeadRole; ohms: number; to: SupplySource }
  | { kind: 'shifter'; lead: LeadRole }
  | { kind: 'converter'; lead: LeadRole; volts_v: number }
  | { kind: 'splice'; lead: LeadRole }
  | { kind: 'tap'; header: string };
export const LEAD_ROLES = ['signal', 'supply', 'ground', 'control'] as const;
export type LeadRole = (typeof LEAD_ROLES)[number];

/** The cable of a part, as far as it was measured. */
export interface Cable {
  /** American wire gauge. */
  awg?: number;
  length_mm?: number;
  /** From the part, at the far end of its travel, to where cables enter the board's bay. */
  route_mm?: number;
  /** The plug as it is crimped now: its family, and the lead in each of its contacts, '' where there is none. */
  plug?: { family: string; order: (LeadRole | '')[] };
  /** Colour of each lead: a note, never a reason. */
  colours?: Partial<Record<LeadRole, string>>;
}

/** The place the board sits in. */
export interface Bay {
  /** The side on which cables come in. */
  enters: BoardSide;
  /** Sides with a wall so close that no plug goes in from there. */
  walls: BoardSide[];
}
export const BOARD_SIDES = ['front', 'back', 'left', 'right'] as const;
export type BoardSide = (typeof BOARD_SIDES)[number];

/** A chip pin decided by the user against the harness. */
export interface OwnPin {
  pin: number;
  because: string;
}

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
  /** By part. */
  cables?: Record<string, Cable>;
  bay?: Bay;
  /** Position of each jumper, as far as it was looked at. */
  jumpers?: Record<string, string>;
  /** Deviations from the pin table, by its row. */
  pins?: Record<string, OwnPin>;
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

const leadRole = () => Joi.valid(...LEAD_ROLES).required();
const adapterSchema = Joi.alternatives().conditional('.kind', {
  switch: [
    {
      is: 'divider',
      then: Joi.object({
        kind: Joi.string(),
        lead: leadRole(),
        top_ohms: positive().required(),
        bottom_ohms: positive().required(),
      }),
    },
    {
      is: 'pull-up',
      then: Joi.object({
        kind: Joi.string(),
        lead: leadRole(),
        ohms: positive().required(),
        to: Joi.valid('3v3', '5v', '12v', 'vin').required(),
      }),
    },
    { is: 'shifter', then: Joi.object({ kind: Joi.string(), lead: leadRole() }) },
    {
      is: 'converter',
      then: Joi.object({ kind: Joi.string(), lead: leadRole(), volts_v: positive().max(60).required() }),
    },
    { is: 'splice', then: Joi.object({ kind: Joi.string(), lead: leadRole() }) },
    { is: 'tap', then: Joi.object({ kind: Joi.string(), header: Joi.string().max(20).required() }) },
  ],
  otherwise: Joi.forbidden(),
});

/** Guards where one part is connected. */
export const landingSchema = Joi.alternatives().conditional('.socket', {
  is: Joi.exist(),
  then: Joi.object({
    socket: Joi.string().max(10).required(),
    turned: Joi.boolean(),
    address: Joi.number().integer().min(0).max(255),
  }),
  otherwise: Joi.object({
    leads: Joi.object()
      .pattern(
        Joi.valid(...LEAD_ROLES),
        Joi.string().pattern(/^[A-Z0-9]+(-[A-Z0-9]+)*\.\d{1,2}$/, 'HEADER.contact'),
      )
      .min(1)
      .required(),
    with: Joi.array().items(adapterSchema).min(1).max(8),
  }),
});

const side = () => Joi.valid(...BOARD_SIDES);

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
  cables: Joi.object().pattern(
    id(),
    Joi.object<Cable>({
      awg: Joi.number().integer().min(8).max(36),
      length_mm: positive().max(20000),
      route_mm: positive().max(20000),
      plug: Joi.object({
        family: Joi.string().max(40).required(),
        order: Joi.array()
          .items(Joi.valid(...LEAD_ROLES, ''))
          .min(1)
          .max(20)
          .required(),
      }),
      colours: Joi.object().pattern(Joi.valid(...LEAD_ROLES), Joi.string().max(20)),
    }),
  ),
  bay: Joi.object<Bay>({ enters: side().required(), walls: Joi.array().items(side()).unique().required() }),
  jumpers: Joi.object().pattern(
    Joi.string()
      .pattern(/^[A-Z0-9]+(-[A-Z0-9]+)*$/)
      .max(20),
    id(),
  ),
  pins: Joi.object().pattern(
    Joi.string()
      .pattern(/^[a-z]+(-[a-z]+)*$/)
      .max(40),
    Joi.object<OwnPin>({
      pin: Joi.number().integer().min(-1).max(255).required(),
      because: Joi.string().min(1).max(300).required(),
    }),
  ),
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
