import type { CardReason } from './judgeCard';

/** Why a bootloader did not take the card's image: it lies in the card, or in the image on it. */
export type FlashReason =
  'no card' | CardReason | 'no header' | 'damaged' | 'other target' | 'other address' | 'too large';

/** What the bootloader did with the card at power-on. */
export type CardOutcome =
  { taken: true; name: string; renamedTo?: string } | { taken: false; reason: FlashReason; because: string };
