import type { Chance } from './chance';
import type { Product } from './product';

/** One thing that is tried again and again. An attempt that throws is a failure. */
export interface Trial {
  name: string;
  /** Share of the time, against the others. */
  share: number;
  attempt(at: Ground): Promise<void>;
  /** Why it cannot be tried here; it is said in the table. */
  impossible?: () => string | undefined;
}

/** What attempts work with. */
export interface Ground {
  chance: Chance;
  /** One product that lives through the whole campaign. */
  house: Product;
  /** How many attempts of this trial were made before. */
  count: number;
}

export function must(holds: boolean, what: string): asserts holds {
  if (!holds) throw new Error(what);
}
