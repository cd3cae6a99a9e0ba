import Joi from 'joi';
import { line } from '../text/plainText';
import { type CardRule, cardRuleSchema } from './cardRule';
import { once } from '../tree/once';
import { id } from '../text/id';

/** What every route says: for whom an image is built, where it begins, and what tells that it was taken. */
interface Common {
  /** The build target this board's bootloader accepts. */
  target: string;
  load_address: number;
  evidence: string;
}

/** A card in the board's slot, or the same card shown to the computer over USB. */
export interface CardRoute extends Common {
  kind: 'card' | 'card-over-usb';
  rule: CardRule;
  max_card_gb: number;
}
/** The bootloader listens on the USB serial line for a moment after power-on. */
export interface SerialRoute extends Common {
  kind: 'serial';
  baud: number;
}
/** Pads of the board for a programmer or a debug probe, in their order. */
export interface Pads {
  at_mm: { x: number; y: number };
  /** Pads in a row, and rows. */
  columns: number;
  pitch_mm: number;
  /** What is printed beside each, in the order of reading with the board as it is drawn. */
  labels: string[];
  /** What each is, in the same order. */
  wires: Wire[];
}
export const WIRES = ['to-chip', 'from-chip', 'clock', 'data', 'reset', 'supply', 'ground'] as const;
export type Wire = (typeof WIRES)[number];
/** What has to be wired at least. The supply goes along only where the tool wants to see it, or gives it. */
export const WIRES_OF = {
  programmer: ['to-chip', 'from-chip', 'clock', 'reset', 'ground'],
  probe: ['clock', 'data', 'ground'],
} satisfies Record<WiredRoute['kind'], readonly Wire[]>;
/** Six wires of a programmer, or three of a debug probe. */
export interface WiredRoute extends Common {
  kind: 'programmer' | 'probe';
  pads: Pads;
}
/** The chip's own USB: a drive that takes UF2, or the firmware-update class. */
export interface UsbRoute extends Common {
  kind: 'drive' | 'update-class';
  /** What is bridged or pressed for it at reset. */
  boot: string;
  /** It lies in the chip's ROM, where nothing can overwrite it. */
  in_rom?: boolean;
  /** What the drive is called. */
  label?: string;
}
/** From the computer that drives the board, with its own tool. */
export interface HostRoute extends Common {
  kind: 'host';
}
export type FlashRoute = CardRoute | SerialRoute | WiredRoute | UsbRoute | HostRoute;
export type RouteKind = FlashRoute['kind'];

export const isCardRoute = (route: FlashRoute): route is CardRoute =>
  route.kind === 'card' || route.kind === 'card-over-usb';
/** The route by the card in the board's slot, where it has one. */
export const cardRouteOf = ({ routes }: { routes: readonly FlashRoute[] }): CardRoute | undefined =>
  routes.find(isCardRoute);

export const isWired = (route: FlashRoute): route is WiredRoute =>
  route.kind === 'programmer' || route.kind === 'probe';

/** Whether a route goes through a bootloader that an image without one would overwrite. */
export const needsBootloader = (route: FlashRoute): boolean =>
  !isWired(route) && !('in_rom' in route && route.in_rom);

const mm = () => Joi.number().min(-1000).max(1000).required();
const common = once(() => ({
  target: id().required(),
  load_address: Joi.number().integer().min(0).max(0xffff_ffff).required(),
  evidence: line(200).required(),
}));
const pads = once(() =>
  Joi.object<Pads>({
    at_mm: Joi.object({ x: mm(), y: mm() }).required(),
    columns: Joi.number().integer().min(1).max(20).required(),
    pitch_mm: Joi.number().min(0.1).max(50).required(),
    labels: Joi.array().items(line(12)).min(3).max(20).required(),
    wires: Joi.array()
      .items(Joi.valid(...WIRES))
      .unique()
      .min(3)
      .max(20)
      .required(),
  }),
);
const card = once(() => ({
  rule: cardRuleSchema().required(),
  max_card_gb: Joi.number().min(0.001).max(100_000).required(),
}));
const usb = once(() => ({ boot: line(120).required(), in_rom: Joi.boolean() }));

/** What a route says beside what all say, by its kind. */
const SAYS = once((): Readonly<Record<RouteKind, Joi.SchemaMap>> => ({
  card: card(),
  'card-over-usb': card(),
  serial: { baud: Joi.number().integer().min(300).max(4_000_000).required() },
  programmer: { pads: pads().required() },
  probe: { pads: pads().required() },
  drive: { ...usb(), label: line(11).required() },
  'update-class': usb(),
  host: {},
}));

/** A route of any kind; what it must say follows from its kind. */
export const routeSchema = once(() => {
  const [first, ...more] = Object.entries(SAYS()).map(([kind, says]) => ({
    is: Joi.object({ kind: Joi.valid(kind).required() }).unknown(),
    then: Joi.object({ kind: Joi.valid(kind).required(), ...says, ...common() }),
  }));
  return Joi.alternatives().conditional(Joi.ref('.'), {
    switch: [...(first ? [first] : []), ...more],
    otherwise: Joi.object({ kind: Joi.valid(...Object.keys(SAYS())).required() }).unknown(),
  });
});
