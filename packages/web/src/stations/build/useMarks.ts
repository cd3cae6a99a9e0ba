import type { Build, BuildMarks } from '@jolly/contract/endpoints/builds';
import { useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/api';
import { askAnewOf } from '../../api/held';
import { useAct } from '../../ui/useAct';

/** Labels and pins a build; a refusal comes back in words. */
export function useMarks({ id, machineId }: Build) {
  const client = useQueryClient();
  const { refused, act } = useAct(() => askAnewOf(client, machineId, 'builds'));
  const mark = (marks: BuildMarks) =>
    act(async () => {
      await api.markBuild({ id }, { ...marks, label: marks.label.trim() });
    });
  return { mark, refused };
}
