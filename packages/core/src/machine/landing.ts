import Joi from 'joi';
import type { Board } from '../board/board';
import { contactNet } from '../board/contacts';
import type { SupplySource } from '../board/net';
import { line } from '../text/plainText';
import { once } from '../tree/once';

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
  /** Carries the load itself; the header only steers it. */
  | { kind: 'power-switch'; lead: LeadRole }
  /** A board between a ribbon and its header that brings a contact out. */
  | { kind: 'tap'; header: string }
  /** A single wire taken out of a ribbon: the display's end of it is cut. */
  | { kind: 'ribbon-lead'; header: string };
export const LEAD_ROLES = ['signal', 'supply', 'ground', 'control'] as const;
export type LeadRole = (typeof LEAD_ROLES)[number];

/** The first socket or contact of a landing that a board does not have; undefined where it has them all. */
export function missingPlace(board: Board, landing: Landing): string | undefined {
  if ('leads' in landing)
    return Object.values(landing.leads).find((contact) => contactNet(board, contact) === undefined);
  return board.sockets.some(({ id }) => id === landing.socket) ? undefined : landing.socket;
}

const positive = () => Joi.number().min(1e-4).max(1e6);
const leadRole = () => Joi.valid(...LEAD_ROLES).required();
const adapterSchema = once(() =>
  Joi.alternatives().conditional('.kind', {
    switch: [
      {
        is: 'divider',
        then: Joi.object({
          kind: line(20),
          lead: leadRole(),
          top_ohms: positive().required(),
          bottom_ohms: positive().required(),
        }),
      },
      {
        is: 'pull-up',
        then: Joi.object({
          kind: line(20),
          lead: leadRole(),
          ohms: positive().required(),
          to: Joi.valid('3v3', '5v', '12v', 'vin').required(),
        }),
      },
      { is: 'shifter', then: Joi.object({ kind: line(20), lead: leadRole() }) },
      {
        is: 'converter',
        then: Joi.object({ kind: line(20), lead: leadRole(), volts_v: positive().max(60).required() }),
      },
      { is: 'splice', then: Joi.object({ kind: line(20), lead: leadRole() }) },
      { is: 'power-switch', then: Joi.object({ kind: line(20), lead: leadRole() }) },
      { is: 'tap', then: Joi.object({ kind: line(20), header: line(20).required() }) },
      { is: 'ribbon-lead', then: Joi.object({ kind: line(20), header: line(20).required() }) },
    ],
    otherwise: Joi.forbidden(),
  }),
);

/** Guards where one part is connected. */
export const landingSchema = once(() =>
  Joi.alternatives().conditional('.socket', {
    is: Joi.exist(),
    then: Joi.object({
      socket: line(10).required(),
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
      with: Joi.array().items(adapterSchema()).min(1).max(8),
    }),
  }),
);
