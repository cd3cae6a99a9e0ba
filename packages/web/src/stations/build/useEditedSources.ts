import { whyOf } from '@jolly/core/text/whyOf';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/api';
import { tape } from '../../app/tape/tape';
import { useWorkbench } from '../../workbench/Workbench';

/** Sources of the kit that are not as they came, and the way to put them back. */
export interface EditedSources {
  paths: string[];
  putBack: () => void;
  putting: boolean;
  refused: string | undefined;
}

export function useEditedSources(): EditedSources {
  const { kit } = useWorkbench();
  const client = useQueryClient();
  const { write } = tape;
  const edited = useQuery({
    queryKey: ['edited-sources', kit.id],
    queryFn: () => api.editedSources({ id: kit.id }),
    meta: { what: 'whether sources are as they came' },
  }).data?.edited;
  const put = useMutation({
    mutationFn: () => api.freshSources({ id: kit.id }),
    onSuccess: ({ keptIn }) =>
      write('done', `Sources put back as they came; what stood there is in ${keptIn}`),
    onSettled: () => client.invalidateQueries({ queryKey: ['edited-sources', kit.id] }),
  });
  return {
    paths: edited ?? [],
    putBack: () => put.mutate(),
    putting: put.isPending,
    refused: put.error ? whyOf(put.error) : undefined,
  };
}
