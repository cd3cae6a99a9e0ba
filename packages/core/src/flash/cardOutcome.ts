import type { CardReason } from './judgeCard';

/** Why a bootloader did not take the card's image: it lies in the card, or in the image on it. */
type CardRefusal =
  | 'no card'
  | 'no slot'
  | 'no bootloader'
  | CardReason
  | 'no header'
  | 'damaged'
  | 'other target'
  | 'other address'
  | 'too large';

/** Why a tool did not get an image into the flash. */
export type ToolRefusal =
  | 'port held'
  | 'no answer'
  | 'other chip'
  | 'locked'
  | 'not written'
  | 'differs'
  | 'left alone'
  | 'cancelled'
  | 'power lost';
export type FlashReason = CardRefusal | ToolRefusal;

/** What came of a flash: what the bootloader did with a card at power-on, or how a tool got on. */
export type CardOutcome =
  | {
      taken: true;
      name: string;
      renamedTo?: string;
      /** The tool reported an error although it had worked. */
      toolSaid?: string;
    }
  | {
      taken: false;
      reason: FlashReason;
      because: string;
      /** Something was written before it broke off. */
      partly?: true;
    };
