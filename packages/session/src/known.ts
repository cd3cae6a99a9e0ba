import type { BoardOnBench, Proofs } from '@jolly/contract/endpoints/board';
import type { Build } from '@jolly/contract/endpoints/builds';
import type { StoredJob } from '@jolly/contract/endpoints/jobs';
import type { WayBack } from '@jolly/contract/endpoints/kept';
import type { Entry } from '@jolly/contract/endpoints/machines';
import type { StoredPhoto } from '@jolly/contract/endpoints/photos';
import type { Board } from '@jolly/core/board/board';
import type { Chip } from '@jolly/core/board/chip';
import type { Finding } from '@jolly/core/finding/finding';
import type { Kit } from '@jolly/core/kit/kit';
import type { Facts } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import type { PutBack } from '@jolly/core/ripple/job';
import type { Ripple } from '@jolly/core/ripple/ripple';

/** The machine at hand with what follows from its file. */
export interface KnownMachine {
  machine: Machine;
  version: number;
  facts: Facts;
  board: Board;
  chip: Chip;
  kit: Kit;
  findings: Finding[];
}

/** The open job, if there is one, and what jobs have left. */
export interface KnownJob {
  stored?: StoredJob;
  tail?: { ripple: Ripple };
  wayBack?: WayBack;
  photos: StoredPhoto[];
  /** What is due to be measured; missing while it is not known. */
  dues?: { id: string; title: string }[];
  /** How many measurements nobody has made, as far as the record goes; missing while it is not known. */
  unmeasured?: number;
  putBack: PutBack[];
  isDone(id: string): boolean;
}

/** All that a window knows of a machine's way, and from which its progress is read. */
export interface Known {
  workbench: KnownMachine;
  builds: Build[];
  board: BoardOnBench | undefined;
  proofs: Proofs | undefined;
  entries: Entry[];
  job: KnownJob;
}
