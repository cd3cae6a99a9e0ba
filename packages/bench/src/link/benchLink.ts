import type { PrintFile } from '../board/cardBlocks';
import type { DisplayLook, Finger } from '../board/panel';
import type { HandAct } from '@jolly/core/bringup/handAct';
import type { Recording } from '../recording/recording';
import type { PlantView } from '../plant/truth';
import type { Link } from './link';

/** How fast the virtual clock runs against the wall's; Infinity is as fast as this computer allows. */
export type Pace = number;

/** A card to print from: its files, and the blocks that a board has written since. */
export interface PrintCard {
  files: readonly PrintFile[];
  written: Map<number, Uint8Array>;
}

/** A link to a board on the virtual bench. Opening it switches the power on, closing it off. */
export interface BenchLink extends Link {
  readonly kind: 'bench';
  setPace(pace: Pace): void;
  /**
   * While a test is under way faster than real time: the clock runs on until what was asked is answered, and stands
   * nearly still between, so that what is measured does not hang on how fast this computer is.
   */
  setStepping(on: boolean): void;
  /** Does something to the machine by hand, or takes it back. */
  hand(act: HandAct): void;
  /** Turns the display's knob, right being plus, or presses it. */
  turn(steps: number): void;
  press(): void;
  /** Puts a finger on the display, or lifts it. */
  touch(finger: Finger | undefined): void;
  /** Puts a card to print from into the slot, or takes it out. */
  putCard(card: PrintCard | undefined): void;
  /** What was done since the power came on, and what came of it; undefined when nothing runs. */
  recording(): Promise<Recording | undefined>;
}

/** What a person at the bench sees beside what the board says. */
export interface BenchLook {
  view: PlantView;
  /** What the machine's own display shows; missing where there is none. */
  display?: DisplayLook;
  /** On the bench's clock, since the power came on. */
  nowS: number;
}
