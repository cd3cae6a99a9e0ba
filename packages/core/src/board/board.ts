import Joi from 'joi';
import { line } from '../text/plainText';
import { type BoardUse, boardUseSchema } from './boardUse';
import { type Jumper, jumperSchema } from './jumper';
import { type KnownFault, knownFaultSchema } from './knownFault';
import { NET_PATTERN, type SupplySource } from './net';
import { type FlashRoute, routeSchema } from './route';
import { once } from '../tree/once';
import { id } from '../text/id';

export interface Header {
  id: string;
  /** Centre of contact 1, measured from the front left corner of the outline. */
  at_mm: { x: number; y: number };
  /** Which way contact 2 lies from contact 1. */
  runs: 'right' | 'up';
  family: string;
  pitch_mm: number;
  contacts: string[];
  /** What supply and switched contacts may give; required where there is one. */
  max_a?: number;
  for?: string;
  /** Which way a plug comes out; up where nothing is said. */
  faces?: Facing;
  /** Why it must be wired before the rest: it is out of reach later. */
  first_because?: string;
}
export const FACINGS = ['up', 'front', 'back', 'left', 'right'] as const;
export type Facing = (typeof FACINGS)[number];

export interface Socket {
  id: string;
  at_mm: { x: number; y: number };
  step: number;
  dir: number;
  enable: number;
  /** The axis it is printed for. */
  for?: 'x' | 'y' | 'z' | 'e';
  serial?: { line: string; address: number };
  /** The pin that selects the driver on the shared bus. */
  select?: number;
  /** The input the driver's stall output is tied to, unless a jumper parts them. */
  stall?: number;
  /** Where the motor is plugged in, and the order of its two windings' four wires. */
  motor?: { at_mm: { x: number; y: number }; family: string; pitch_mm: number; order: MotorWire[] };
}
export const MOTOR_WIRES = ['a1', 'a2', 'b1', 'b2'] as const;
export type MotorWire = (typeof MOTOR_WIRES)[number];

/** What a supply of the board's own can give to all headers together. */
export interface Rail {
  source: SupplySource;
  max_a: number;
}

/** What the board itself adds between a header contact and its chip pin. */
export interface InputCircuit {
  pin: number;
  pull_up_ohms: number;
  to_v: number;
}

export interface Board {
  jolly: 'board/1';
  id: string;
  name: string;
  revision: string;
  chip: string;
  outline_mm: { x: number; y: number };
  holes_mm: { x: number; y: number }[];
  input_v: number[];
  headers: Header[];
  sockets: Socket[];
  inputs: InputCircuit[];
  /** The pins of the serial port that faces the host. */
  host_serial: { receive: number; send: number };
  /** The first is the one to take. */
  routes: [FlashRoute, ...FlashRoute[]];
  /** It is sold without a bootloader: its routes need one to be installed first. */
  sold_bare?: boolean;
  /** What is printed on the board, line by line, and where. */
  print: string[];
  print_at_mm: { x: number; y: number };
  chip_at_mm: { x: number; y: number };
  drivers: 'plugged in' | 'soldered';
  /** Small things that tell this revision from its sisters. */
  tells: Tell[];
  uses?: BoardUse[];
  jumpers?: Jumper[];
  faults?: KnownFault[];
  rails?: Rail[];
}

/** One thing to look at on a board, and what is seen there on this revision. */
export interface Tell {
  id: string;
  /** What to look for, in words. */
  look: string;
  at_mm: { x: number; y: number };
  says: string;
}

/** Millimetres on a board: no board is larger than a table. */
const mm = () => Joi.number().min(-1000).max(1000);
const place = () => Joi.object({ x: mm().required(), y: mm().required() });
const amps = () => Joi.number().min(0.001).max(200);
const volts = () => Joi.number().min(1).max(60);
const pitch = () => Joi.number().min(0.1).max(50).required();
const pin = () => Joi.number().integer().min(0).max(255);

const FIELDS = once(
  () =>
    ({
      jolly: Joi.valid('board/1').required(),
      id: id().required(),
      name: line(60).required(),
      revision: line(12).required(),
      chip: id().required(),
      outline_mm: place().required(),
      holes_mm: Joi.array().items(place()).max(24).required(),
      input_v: Joi.array().items(volts()).min(1).max(12).required(),
      headers: Joi.array()
        .items(
          Joi.object<Header>({
            id: Joi.string()
              .pattern(/^[A-Z0-9]+(-[A-Z0-9]+)*$/)
              .max(20)
              .required(),
            at_mm: place().required(),
            runs: Joi.valid('right', 'up').required(),
            family: line(40).required(),
            pitch_mm: pitch(),
            contacts: Joi.array().items(Joi.string().pattern(NET_PATTERN)).min(1).max(80).required(),
            max_a: amps(),
            for: line(60),
            faces: Joi.valid(...FACINGS),
            first_because: line(200),
          }),
        )
        .unique('id')
        .max(200)
        .required(),
      sockets: Joi.array()
        .items(
          Joi.object<Socket>({
            id: Joi.string()
              .pattern(/^[A-Z0-9]+$/)
              .max(10)
              .required(),
            at_mm: place().required(),
            step: pin().required(),
            dir: pin().required(),
            enable: pin().required(),
            for: Joi.valid('x', 'y', 'z', 'e'),
            serial: Joi.object({
              line: line(10).required(),
              address: Joi.number().integer().min(0).max(255).required(),
            }),
            select: pin(),
            stall: pin(),
            motor: Joi.object({
              at_mm: place().required(),
              family: line(40).required(),
              pitch_mm: pitch(),
              order: Joi.array()
                .items(Joi.valid(...MOTOR_WIRES))
                .unique()
                .length(4)
                .required(),
            }),
          }),
        )
        .unique('id')
        .max(40)
        .required(),
      inputs: Joi.array()
        .items(
          Joi.object<InputCircuit>({
            pin: pin().required(),
            pull_up_ohms: Joi.number().min(10).max(1e7).required(),
            to_v: volts().required(),
          }),
        )
        .unique('pin')
        .max(256)
        .required(),
      host_serial: Joi.object({ receive: pin().required(), send: pin().required() }).required(),
      routes: Joi.array().items(routeSchema()).min(1).max(8).required(),
      sold_bare: Joi.boolean(),
      print: Joi.array().items(line(60)).min(1).max(8).required(),
      print_at_mm: place().required(),
      chip_at_mm: place().required(),
      drivers: Joi.valid('plugged in', 'soldered').required(),
      tells: Joi.array()
        .items(
          Joi.object<Tell>({
            id: id().required(),
            look: line(120).required(),
            at_mm: place().required(),
            says: line(60).required(),
          }),
        )
        .unique('id')
        .max(20)
        .required(),
      uses: Joi.array().items(boardUseSchema()).unique('by').max(60),
      jumpers: Joi.array().items(jumperSchema()).unique('id').max(60),
      faults: Joi.array().items(knownFaultSchema()).unique('id').max(20),
      rails: Joi.array()
        .items(
          Joi.object<Rail>({
            source: Joi.valid('3v3', '5v', '12v', 'vin').required(),
            max_a: amps().required(),
          }),
        )
        .unique('source'),
    }) satisfies Joi.SchemaMap,
);
export const boardSchema = once(() => Joi.object<Board>(FIELDS()));
/** Keys of a board file. */
export const boardKeys = (): readonly string[] => Object.keys(FIELDS());

/** Volts of a supply net on this board, given what feeds it. */
export function supplyVolts(source: SupplySource, vin: number): number {
  return { '3v3': 3.3, '5v': 5, '12v': 12, vin }[source];
}
