import { useQuery } from '@tanstack/react-query';
import { askedOf } from '../../api/asked';

/** What was measured at a machine, and what is due; undefined data while it is not known. */
export const useCalibrations = (id: string) => useQuery(askedOf.calibrations(id));
