import type { CalibrationToRecord } from '@jolly/contract/endpoints/calibrations';
import { useCallback } from 'react';
import { api } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';

/** Puts a measurement on record, from where it can be taken back. */
export function useKeepMeasured() {
  const { machine, deeds } = useWorkbench();
  const { id } = machine;
  return useCallback(
    (measured: CalibrationToRecord, title: string) => {
      const keep = async () => {
        const [newest] = (await api.addCalibration({ id }, measured)).calibrations;
        if (newest)
          deeds.did({ kind: 'measured', label: `On record: ${title}`, measured, calibration: newest.id });
      };
      return deeds.during(keep());
    },
    [deeds, id],
  );
}
