import type { StoredDescription } from '@jolly/contract/endpoints/descriptions';
import type { Description } from '@jolly/core/describe/description';
import { draftsIn } from './drafts';

/** Machines that are being described. */
export const describedMachines = draftsIn<Description, StoredDescription>(
  'description',
  ({ document, ...stored }) => ({ ...stored, description: document }),
);
