import type { BuiltWith } from '@jolly/core/settings/asBuilt';
import { skipToken, useQuery } from '@tanstack/react-query';
import { api } from '../../api/api';
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
  });
  return made && input.data;
}
