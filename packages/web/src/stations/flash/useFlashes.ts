import { useQuery } from '@tanstack/react-query';
import { askedOf } from '../../api/asked';
import { useWorkbench } from '../../workbench/Workbench';

/** Flash attempts of the machine at hand, newest first. */
export function useFlashes() {
  const { id } = useWorkbench().machine;
  return useQuery(askedOf.flashes(id));
}
