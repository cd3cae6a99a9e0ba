import type { Landing } from '../machine/landing';
import { type PriceName, PRICES } from './prices';

/** One line of a price. */
export interface PriceLine {
  /** Which entry of the price table, or what kind of loss. */
  id: PriceName | 'fault' | 'reserved' | 'lost';
  points: number;
  what: string;
}

/** Something given up, which is paid for once however many parts give it up. */
export interface Loss extends PriceLine {
  key: string;
}

/** A landing weighed: what it costs by itself, what it takes from others, and the hard rules it breaks. */
export interface Judged {
  landing: Landing;
  lines: PriceLine[];
  losses: Loss[];
  /** Hard rules broken whatever else is on the board; empty for a legal landing. */
  breaks: string[];
  /** Exclusive things, the principal one (a pin or a socket) first. */
  takes: string[];
  /** Milliamperes from a header or rail. */
  draws: { from: string; ma: number }[];
  mode?: { group: string; hz: number };
}

export function emptyJudged(landing: Landing): Judged {
  return { landing, lines: [], losses: [], breaks: [], takes: [], draws: [] };
}

/** Adds a line of the price table; `about` says at what. */
export function charge(judged: Judged, id: PriceName, about: string): void {
  judged.lines.push({ id, points: PRICES[id].points, what: `${PRICES[id].words}: ${about}` });
}

/** Points of a landing taken alone: its own lines, and all it gives up. */
export function priceAlone({ lines, losses }: Judged): number {
  return [...lines, ...losses].reduce((sum, { points }) => sum + points, 0);
}
