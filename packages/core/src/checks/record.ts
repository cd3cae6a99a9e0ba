import type { Board } from '../board/board';
import type { Sizes } from '../build/sizes';
import type { Dump } from '../report/parseDump';
import type { KeptThing } from '../image/wayBack';
import type { Facts } from '../machine/facts';
import type { BuiltWith } from '../settings/asBuilt';

/**
 * What is known of a machine beside its file: what was built, flashed, kept, proven and heard. Every piece may be
 * missing; a check that needs a missing piece does not speak.
 */
export interface MachineRecord {
  /** The machine as it was before the open job, and the settings report kept from it. */
  report?: { before: Facts; dump: Dump };
  sizes?: Sizes;
  /** The image about to be flashed. */
  image?: { name: string; target?: string; loadAddress?: number; against: string[] };
  card?: { format: string; sizeGb: number; fileName?: string };
  namesTaken?: string[];
  bootloader?: 'there' | 'absent' | 'unproven';
  /** What the board said of its stored settings at power-on. */
  store?: 'fresh' | 'loaded' | 'other-layout' | 'damaged';
  /** What is kept, and the board a way back is wanted of where it is not the machine's own. */
  kept?: { things: KeptThing[]; board?: Pick<Board, 'id' | 'name' | 'revision'>; waived?: string };
  /** The image on the board; `foreign` where what it holds is no whole image of ours, null when nobody knows. */
  runs?: { name: string; buildId: string } | 'foreign' | null;
  /** What the image on the board was built with. */
  builtWith?: BuiltWith;
  /** The pins it was built with, by the name of their row. */
  builtPins?: Readonly<Record<string, number>>;
  /** Settings as the board reported them, by option key. */
  reported?: Record<string, number>;
  /** Proofs that no longer hold, by step, each with why: a clause such as “it rests on the board”. */
  voided?: { id: string; title: string; because: string }[];
  /** Calibrations that are due, each with why. */
  due?: { id: string; title: string; because: string }[];
}
