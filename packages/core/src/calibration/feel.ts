import type { Feel } from '../bringup/picture';
import { TOLERANCE } from '../calculation/calculation';

/** A shim drags while the gap is within this of its thickness, mm. */
const LOOSE_MM = 0.014;
const TIGHT_MM = 0.026;

/** How a shim feels in a gap, mm: it slides freely, drags, or is held. */
export function feelOf(gapMm: number, shimMm: number): Feel {
  if (gapMm > shimMm + LOOSE_MM + TOLERANCE) return 'free';
  return gapMm < shimMm - TIGHT_MM - TOLERANCE ? 'holds' : 'drags';
}

/** How strands of a first layer lie: apart, merged, pushed up into ridges, or scraped thin. */
export type Strands = 'apart' | 'merge' | 'ridges' | 'scraped';
/** Shares of the layer's height at which one becomes the other. */
const STRANDS: readonly (readonly [from: number, lie: Strands])[] = [
  [1.15, 'apart'],
  [0.82, 'merge'],
  [0.5, 'ridges'],
];

/** How strands lie that are laid with so much under the nozzle where a layer of `layerMm` was meant. */
export const strandsOf = (gapMm: number, layerMm: number): Strands =>
  STRANDS.find(([from]) => gapMm / layerMm >= from)?.[1] ?? 'scraped';
