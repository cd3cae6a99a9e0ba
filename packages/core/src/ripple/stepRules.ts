import { handSteps } from '../harness/handSteps';
import type { Said } from './consequence';
import type { Stage } from './stage';

/** What is done with hands beside the leads: board, jumpers, main supply, heat sinks, cable run, cover. */
export function stepRules({ before, after }: Stage): Said[] {
  return handSteps(before, after).map(({ id, title, acts }) => ({
    kind: 'step',
    subject: id,
    title,
    acts,
    because: acts[0] ?? title,
  }));
}
