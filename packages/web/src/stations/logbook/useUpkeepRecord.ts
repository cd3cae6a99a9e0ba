import type { BoardOnBench } from '@jolly/contract/endpoints/board';
import type { Consequence } from '@jolly/core/ripple/consequence';
import type { MachineRecord } from '@jolly/core/checks/record';
import { useStation } from '../../app/frame/StationContext';
import { useBuiltRecord } from '../../app/frame/useBuiltWith';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { useCalibrations } from '../calibrate/useCalibrations';

const runsOn = ({ image, imageHash }: BoardOnBench): MachineRecord['runs'] =>
  image ? { name: image.name, buildId: image.buildId } : imageHash === null ? null : 'foreign';

/** What no longer holds of a machine: what runs on it, and the proofs and calibrations that the open job voids, as far as the machine file holds it. */
export function useUpkeepRecord(): MachineRecord {
  const { board, proofs } = useStation();
  const built = useBuiltRecord();
  const job = useJob();
  const { data: measured } = useCalibrations(useWorkbench().machine.id);
  const proven = new Set(
    (proofs?.proofs ?? []).filter(({ outcome }) => outcome === 'proven').map(({ step }) => step),
  );
  const voided = (proofs?.voided ?? []).map(({ step, title, because }) => ({ id: step, title, because }));
  const isTold = (id: string) => proven.has(id) || voided.some((one) => one.id === id);
  const open = (kind: Consequence['kind']) =>
    job
      .already(kind)
      .filter((entry) => !job.isDone(entry.id))
      .map(({ subject, title, because }) => ({ id: subject, title, because }));
  return {
    ...(board && { runs: runsOn(board) }),
    ...built,
    ...(measured &&
      (!job.stored || job.tail) && {
        due: [
          ...open('calibration'),
          ...measured.upkeep
            .filter(({ id, state }) => state === 'due' && !open('calibration').some((one) => one.id === id))
            .map(({ id, title, because }) => ({ id, title, because: because.replace(/\.$/, '') })),
        ],
      }),
    ...(proofs &&
      (!job.stored || job.tail) && {
        // A step proven for the image that runs, with the machine as it is, holds again.
        voided: [...voided, ...open('proof').filter(({ id }) => !isTold(id))],
      }),
  };
}
