import type { SettingValue } from '../kit/settingValue';
import Joi from 'joi';
import { line, lines } from '../text/plainText';
import type { Rotation, Screw } from '../plate/screwTurns';
import type { Span } from '../probe/probeReach';
import { type AxisDrive, driveSchema } from './axisDrive';
import { type BedMap, bedMapSchema } from './bedMap';
import { LEAD_ROLES, type Landing, type LeadRole, landingSchema } from './landing';
import { once } from '../tree/once';
import { id } from '../text/id';

export const AXES = ['x', 'y', 'z'] as const;
export const MOTOR_AXES = ['x', 'y', 'z', 'e'] as const;
export type Axis = (typeof AXES)[number];
export type MotorAxis = (typeof MOTOR_AXES)[number];
export const HEATED = ['hotend', 'bed'] as const;
export type Heated = (typeof HEATED)[number];
/** The role of heater and sensor of a second extruder's hot end. */
export const SECOND_HOTEND = 'hotend-2';
/** Everything that can have a heater. */
export const WARMED = [...HEATED, SECOND_HOTEND, 'chamber'] as const;
export type Warmed = (typeof WARMED)[number];

export type Kinematics = 'moving-bed' | 'lifting-bed' | 'cross-belt';

export interface MachinePart {
  id: string;
  /** Id of the part in the catalogue. */
  part: string;
  /** What it serves: an axis, a heated body, or a place. */
  role: string;
  microsteps?: number;
  /** How a driver module gets rid of its heat; with its own heat sink when not said. */
  cooling?: Cooling;
  /** The how manieth it is in its place, where one was replaced by its like: 2 for the second. */
  copy?: number;
}
export const COOLINGS = ['bare', 'sink', 'blown'] as const;
export type Cooling = (typeof COOLINGS)[number];

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
  /** How far the tip of the stowed probe stands above the nozzle; negative when it hangs below. */
  stowed_mm?: number;
}

export interface PlateScrews {
  /** Where each stands below the plate, mm. */
  at: Screw[];
  /** What a full turn raises, mm. */
  pitch_mm: number;
  /** The way to turn, seen from above, that raises the plate; missing while nobody has looked. */
  raises?: Rotation;
}

/** What a chip counted at a temperature that was known. */
export interface Reading {
  raw: number;
  known_c: number;
}

/** Why a finding is set aside. */
export interface Waiver {
  because: string;
  /** The name of the machine, typed in full, where the check asks for it. */
  machine?: string;
  /** What was found then: where something else is found now, it is not set aside. Missing in waivers of before. */
  said?: string;
}

export interface OwnSetting {
  value: SettingValue;
  source: 'override' | 'carried';
  because: string;
  /** For a measured value: what it was measured with, by fact (see touched.ts). */
  measured_with?: Record<string, string>;
}

export interface Machine {
  jolly: 'machine/1';
  id: string;
  name: string;
  place: string;
  note?: string;
  /** A date or a count that is shown after the name, so that the display proves which image runs. */
  mark?: string;
  kit: { id: string; version: string };
  /** The kit version the configuration began with, where that is known. */
  base?: { kit: string; version: string };
  board: {
    id: string;
    revision: string;
    /** What is printed on the big chip. */
    marking?: string;
    /** False while the revision is a guess and nobody has read it off the board. */
    revision_seen?: boolean;
    /** False where this machine's images begin at the first byte of the flash, and no bootloader is wanted. */
    bootloader?: false;
    /** The how manieth it is in its place, where one was replaced by its like: 2 for the second. */
    copy?: number;
  };
  supply: { volts_v: number; amps_a: number };
  frame: {
    kinematics: Kinematics;
    travel_mm: Record<Axis, Span>;
    bed_mm: { x: Span; y: Span };
    /** How far each axis can go before it meets the frame. */
    room_mm?: Partial<Record<Axis, number>>;
    /** The end of each axis that has its switch. */
    switch_at: Partial<Record<Axis, 'min' | 'max'>>;
    /** Clips and screws on the plate that neither probe nor nozzle may meet. */
    clips_mm?: { x: Span; y: Span }[];
    /** The screws the plate stands on. */
    screws?: PlateScrews;
  };
  /** `e2` is the drive of a second extruder; without it that has the first one's. */
  axes: Record<MotorAxis, AxisDrive> & { e2?: AxisDrive };
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
  /** Counts of the sensors at known temperatures, by heated body. */
  readings?: Partial<Record<Heated, Reading[]>>;
  bed_map?: BedMap;
  /** G-code the slicer puts before and after a print, as it is there now. */
  slicer?: { start?: string; end?: string };
  /** Questions of the description (describe/pages.ts) that nobody could answer yet; `harness.PART` for a place nobody has seen. */
  not_known?: string[];
  /** Findings set aside, by check id and subject: `motion.range accel.x`. */
  waivers?: Record<string, Waiver>;
}

export const MACHINE_VERSION = 'machine/1';

/** The first of its type is not counted. */
const copy = () => Joi.number().integer().min(2).max(999);
const positive = () => Joi.number().min(1e-4).max(1e6);
const range = () =>
  Joi.array()
    .ordered(Joi.number().min(-2000).max(2000).required(), Joi.number().min(-2000).max(2000).required())
    .length(2)
    .custom((value: Span, helpers) =>
      value[0] < value[1]
        ? value
        : helpers.message({ custom: '{{#label}} must rise from its first to its second value' }),
    );

/** Entries that any list by name may have: the largest machine of the demo has some forty. */
const MOST = 500;

const byName = (name: Joi.Schema, entry: Joi.Schema) => Joi.object().pattern(name, entry).max(MOST);

const side = () => Joi.valid(...BOARD_SIDES);

export const machineSchema = once(() =>
  Joi.object<Machine>({
    jolly: Joi.valid(MACHINE_VERSION).required(),
    id: id().required(),
    name: line(40).required(),
    place: line(80).required(),
    note: lines(2000),
    mark: Joi.string()
      .pattern(/^[A-Za-z0-9.-]+$/)
      .max(12),
    kit: Joi.object({ id: id().required(), version: line(20).required() }).required(),
    base: Joi.object({ kit: id().required(), version: line(20).required() }),
    board: Joi.object({
      id: id().required(),
      revision: line(12).required(),
      marking: line(60),
      revision_seen: Joi.boolean(),
      bootloader: Joi.valid(false),
      copy: copy(),
    }).required(),
    supply: Joi.object({
      volts_v: positive().max(60).required(),
      amps_a: positive().max(200).required(),
    }).required(),
    frame: Joi.object({
      kinematics: Joi.valid('moving-bed', 'lifting-bed', 'cross-belt').required(),
      travel_mm: Joi.object({
        x: range().required(),
        y: range().required(),
        z: range().required(),
      }).required(),
      bed_mm: Joi.object({ x: range().required(), y: range().required() }).required(),
      room_mm: Joi.object({ x: positive(), y: positive(), z: positive() }),
      switch_at: Joi.object({
        x: Joi.valid('min', 'max'),
        y: Joi.valid('min', 'max'),
        z: Joi.valid('min', 'max'),
      }).required(),
      clips_mm: Joi.array()
        .items(Joi.object({ x: range().required(), y: range().required() }))
        .max(20),
      screws: Joi.object<PlateScrews>({
        at: Joi.array()
          .items(
            Joi.object<Screw>({
              id: line(24).required(),
              x: Joi.number().min(-2000).max(2000).required(),
              y: Joi.number().min(-2000).max(2000).required(),
            }),
          )
          .unique('id')
          .min(2)
          .max(8)
          .required(),
        pitch_mm: positive().max(5).required(),
        raises: Joi.valid('clockwise', 'anticlockwise'),
      }),
    }).required(),
    axes: Joi.object({
      x: driveSchema().required(),
      y: driveSchema().required(),
      z: driveSchema().required(),
      e: driveSchema().required(),
      e2: driveSchema(),
    }).required(),
    probe_mount: Joi.object<ProbeMount>({
      side: Joi.valid('left', 'right').required(),
      side_mm: Joi.number().min(0).max(200).required(),
      face: Joi.valid('front', 'back').required(),
      face_mm: Joi.number().min(0).max(200).required(),
      z_mm: Joi.number().min(-20).max(20),
      stowed_mm: Joi.number().min(-50).max(50),
    }),
    parts: Joi.array()
      .items(
        Joi.object<MachinePart>({
          id: id().required(),
          part: id().required(),
          role: id().required(),
          microsteps: Joi.valid(1, 2, 4, 8, 16, 32, 64, 128, 256),
          cooling: Joi.valid(...COOLINGS),
          copy: copy(),
        }),
      )
      .unique('id')
      .max(200)
      .required(),
    harness: byName(id(), landingSchema()).required(),
    cables: byName(
      id(),
      Joi.object<Cable>({
        awg: Joi.number().integer().min(8).max(36),
        length_mm: positive().max(20000),
        route_mm: positive().max(20000),
        plug: Joi.object({
          family: line(40).required(),
          order: Joi.array()
            .items(Joi.valid(...LEAD_ROLES, ''))
            .min(1)
            .max(20)
            .required(),
        }),
        colours: Joi.object().pattern(Joi.valid(...LEAD_ROLES), line(20)),
      }),
    ),
    bay: Joi.object<Bay>({ enters: side().required(), walls: Joi.array().items(side()).unique().required() }),
    jumpers: byName(
      Joi.string()
        .pattern(/^[A-Z0-9]+(-[A-Z0-9]+)*$/)
        .max(20),
      id(),
    ),
    pins: byName(
      Joi.string()
        .pattern(/^[a-z]+(-[a-z]+)*$/)
        .max(40),
      Joi.object<OwnPin>({
        pin: Joi.number().integer().min(-1).max(255).required(),
        because: lines(300).required(),
      }),
    ),
    settings: byName(
      Joi.string()
        .pattern(/^[a-z0-9]+([.-][a-z0-9]+)*$/)
        .max(60),
      Joi.object<OwnSetting>({
        value: Joi.alternatives(Joi.number(), Joi.boolean(), line(200)).required(),
        source: Joi.valid('override', 'carried').required(),
        because: lines(500).required(),
        measured_with: byName(line(40), line(1000)),
      }),
    ).required(),
    readings: byName(
      Joi.valid(...HEATED),
      Joi.array()
        .items(
          Joi.object<Reading>({
            raw: Joi.number().integer().min(0).max(16_777_215).required(),
            known_c: Joi.number().min(-50).max(500).required(),
          }),
        )
        .min(1)
        .max(20),
    ),
    bed_map: bedMapSchema(),
    slicer: Joi.object({ start: lines(20_000).allow(''), end: lines(20_000).allow('') }),
    not_known: Joi.array()
      .items(
        Joi.string()
          .pattern(/^[a-z]+(\.[a-z0-9_-]+)*$/)
          .max(60),
      )
      .unique()
      .max(MOST),
    waivers: byName(
      Joi.string()
        .pattern(/^[a-z.-]+ [!-~]+$/)
        .max(120),
      Joi.object<Waiver>({
        because: lines(300).required(),
        machine: line(40),
        said: lines(300),
      }),
    ),
  }),
);
