import Joi from 'joi';
import { line } from '../text/plainText';
import type { SupplySource } from './net';
import { once } from '../tree/once';
import { id } from '../text/id';

export const DRIVER_MODES = ['stand-alone', 'serial', 'select'] as const;
export type DriverMode = (typeof DRIVER_MODES)[number];

/** A jumper, and what each of its positions does. */
export interface Jumper {
  id: string;
  at_mm: { x: number; y: number };
  sets: 'usb power' | 'fan voltage' | 'driver mode' | 'stall line';
  /** The header or socket it belongs to, where it belongs to one. */
  of?: string;
  /** Hidden once the driver module is in its socket. */
  under_module?: boolean;
  positions: JumperPosition[];
}
export interface JumperPosition {
  id: string;
  means: string;
  gives?: SupplySource;
  mode?: DriverMode;
  stall?: 'tied' | 'parted';
  power?: 'usb' | 'supply';
}

/** What a position must say, by what its jumper sets. */
const SAYS = once(() => ({
  'usb power': { power: Joi.valid('usb', 'supply').required() },
  'fan voltage': { gives: Joi.valid('3v3', '5v', '12v', 'vin').required() },
  'driver mode': { mode: Joi.valid(...DRIVER_MODES).required() },
  'stall line': { stall: Joi.valid('tied', 'parted').required() },
}));
const positions = (says: Joi.SchemaMap) =>
  Joi.array()
    .items(
      Joi.object({
        id: id().required(),
        means: line(80).required(),
        ...says,
      }),
    )
    .unique('id')
    .min(2)
    .required();

export const jumperId = () =>
  Joi.string()
    .pattern(/^[A-Z0-9]+(-[A-Z0-9]+)*$/)
    .max(20);
export const jumperSchema = once(() =>
  Joi.object<Jumper>({
    id: jumperId().required(),
    at_mm: Joi.object({ x: Joi.number().required(), y: Joi.number().required() }).required(),
    sets: Joi.valid(...Object.keys(SAYS())).required(),
    of: Joi.when('sets', {
      is: 'usb power',
      then: Joi.forbidden(),
      otherwise: line(20).required(),
    }),
    under_module: Joi.boolean(),
    positions: Joi.when('sets', {
      switch: Object.entries(SAYS()).map(([sets, says]) => ({ is: sets, then: positions(says) })),
    }),
  }),
);
