import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';
import { heldOf } from '../../api/held';

/** Flash attempts of the machine at hand, newest first. */
export function useFlashes() {
  const { id } = useWorkbench().machine;
  return useQuery({ queryKey: heldOf(id, 'flashes'), queryFn: () => api.flashes({ id }) });
}
