import type { Landing } from '@jolly/core/machine/landing';
import type { MachinePart } from '@jolly/core/machine/machine';

/** One lead as the bench shows it. */
export interface BenchLead {
  part: MachinePart;
  name: string;
  from: Landing | undefined;
  to: Landing | undefined;
  /** It is not as it was. */
  differs: boolean;
  done: boolean;
}
