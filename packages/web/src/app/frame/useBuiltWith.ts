import { asBuilt, type BuiltWith } from '@jolly/core/settings/asBuilt';
import type { Settings } from '@jolly/core/settings/setting';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';
import { useStation } from './StationContext';

/** The settings the image on the board was built with; undefined while it is looked up, and where no build of it is known. */
export function useBuiltWith(): BuiltWith | undefined {
  const { board, builds } = useStation();
  const made = builds.find((build) => build.state === 'done' && build.imageHash === board?.imageHash);
  const input = useQuery({
    queryKey: ['built-with', made?.id],
    queryFn: made
      ? async () => {
          const { settings } = await api.buildInput({ id: made.id });
          return Object.fromEntries(settings.map(({ key, value }) => [key, value]));
        }
      : skipToken,
    staleTime: Infinity,
    meta: { what: 'what the image on the board was built with' },
  });
  return made && input.data;
}

/** The settings as the image that runs has them; as the machine file has them while nobody knows. */
export function useImageSettings(): Settings {
  const { facts, settings } = useWorkbench();
  const builtWith = useBuiltWith();
  return useMemo(
    () => (builtWith ? asBuilt(facts.kit, settings, builtWith) : settings),
    [facts.kit, settings, builtWith],
  );
}
