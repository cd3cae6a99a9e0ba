import { openParts } from '@jolly/core/describe/openParts';
import type { Machine } from '@jolly/core/machine/machine';
import type { BoardOnBench, Proofs } from '@jolly/contract/endpoints/board';
import type { Known } from '@jolly/session/known';
import { boardInWords } from '@jolly/core/machine/same';
import { allProven } from '@jolly/session/progress';
import { Link } from 'react-router';
import { Underway } from '../../bench/Underway';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import css from './MachineFrame.module.css';

/** The nameplate: which machine, which board, which job, what runs on it and what is under way. */
export function Plate({ board, proofs }: Pick<Known, 'board' | 'proofs'>) {
  const workbench = useWorkbench();
  const job = useJob();
  return (
    <div className={css.plate}>
      <div className={css.nameRow}>
        <h1>{workbench.machine.name}</h1>
        <Link to="/" className={css.shelf}>
          ‹ Shelf
        </Link>
      </div>
      <p>{boardInWords(workbench.facts)}</p>
      {job.stored && (
        <p className={css.job} title={job.stored.job.title}>
          {job.stored.state === 'paused' ? 'Paused: ' : 'Job: '}
          {job.stored.job.title}
        </p>
      )}
      <p className={css.image} data-proven={allProven(proofs)}>
        {board ? runningImage(board, proofs, workbench.machine) : 'what it holds is not known yet'}
      </p>
      <Underway />
    </div>
  );
}

function runningImage(
  { image, imageHash }: BoardOnBench,
  proofs: Proofs | undefined,
  machine: Machine,
): string {
  if (!image) return imageHash === null ? 'no flash on record' : 'holds no whole image of ours · unproven';
  const whole = openParts(machine).length === 0 ? 'proven' : 'proven as far as described';
  return `holds ${image.name} · ${image.buildId} · ${allProven(proofs) ? whole : 'unproven'}`;
}
