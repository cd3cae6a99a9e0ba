import type { Option } from '@jolly/core/kit/kit';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api } from '../../api/api';
import { held } from '../../api/held';

/** Every option of the kits there are, by its key; where versions differ, what the last one says of it. */
export function useOptions(): ReadonlyMap<string, Option> {
  const { data } = useQuery({ queryKey: held('catalogue'), queryFn: api.catalogue, staleTime: Infinity });
  return useMemo(
    () => new Map((data?.kits ?? []).flatMap(({ options }) => options.map((option) => [option.key, option]))),
    [data],
  );
}
