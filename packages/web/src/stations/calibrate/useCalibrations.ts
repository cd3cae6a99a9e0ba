import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/api';
import { heldOf } from '../../api/held';

/** What was measured at a machine, and what is due; undefined data while it is not known. */
export const useCalibrations = (id: string) =>
  useQuery({ queryKey: heldOf(id, 'calibrations'), queryFn: () => api.calibrations({ id }) });
