import type { Recording } from '../recording/recording';
import type { PlantView } from '../plant/plant';
import type { Link } from './link';

/** How fast the virtual clock runs against the wall's; Infinity is as fast as this computer allows. */
export type Pace = number;

/** A link to a board on the virtual bench. Opening it switches the power on, closing it off. */
export interface BenchLink extends Link {
  readonly kind: 'bench';
  setPace(pace: Pace): void;
  /** Holds something under a switch or probe by hand, or takes it away. */
  hold(partId: string, held: boolean): void;
  /** What was done since the power came on, and what came of it; undefined when nothing runs. */
  recording(): Promise<Recording | undefined>;
}

/** What a person at the bench sees beside what the board says. */
export interface BenchLook {
  view: PlantView;
  /** On the bench's clock, since the power came on. */
  nowS: number;
}
