import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { type Job, takenChanges } from '@jolly/core/ripple/job';
import { replan } from '@jolly/core/ripple/replan';
import { sameValue } from '@jolly/core/tree/sameValue';

/** The machine file as it will be when every change of the job is taken over; `plan` is the machine of the plan alone. */
export function plannedFrom(machine: Machine, job: Job, plan: Machine, catalogue: Catalogue): Machine {
  const planned = replan(machine, { ...job, from: takenChanges(job), to: job.changes }, catalogue).machine;
  const { jumpers: _jumpers, pins: _pins, ...elsewhere } = planned;
  // Jumpers and pins were looked at on one board; they say nothing of another.
  return sameValue(machine.board, plan.board) ? planned : elsewhere;
}
