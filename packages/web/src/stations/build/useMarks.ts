import type { Build, BuildMarks } from '@jolly/contract/endpoints/builds';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { askAnewOf } from '../../api/held';

/** Labels and pins a build; a refusal comes back in words. */
export function useMarks({ id, machineId }: Build) {
  const client = useQueryClient();
  const [refused, setRefused] = useState<string>();
  const mark = async (marks: BuildMarks) => {
    setRefused(undefined);
    try {
      await api.markBuild({ id }, { ...marks, label: marks.label.trim() });
    } catch (error) {
      setRefused(whyOf(error));
    }
    await askAnewOf(client, machineId, 'builds');
  };
  return { mark, refused };
}
