import type { MachineRecord } from '@jolly/core/checks/record';
import { pinsBuilt } from '@jolly/core/build/pinsBuilt';
import { asBuilt, type BuiltWith } from '@jolly/core/settings/asBuilt';
import type { Settings } from '@jolly/core/settings/setting';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';
import { useStation } from './StationContext';

/** What the image on the board was built with; undefined while it is looked up, and where no build of it is known. */
function useBuiltFrom(): { settings: BuiltWith; pins: Record<string, number> } | undefined {
  const { board, builds } = useStation();
  const made = builds.find((build) => build.state === 'done' && build.imageHash === board?.imageHash);
  const input = useQuery({
    queryKey: ['built-with', made?.id],
    queryFn: made
      ? async () => {
          const { settings, files } = await api.buildInput({ id: made.id });
          return {
            settings: Object.fromEntries(settings.map(({ key, value }) => [key, value])),
            pins: pinsBuilt(files),
          };
        }
      : skipToken,
    staleTime: Infinity,
    meta: { what: 'what the image on the board was built with' },
  });
  return made && input.data;
}

/** The settings of the image on the board. */
export const useBuiltWith = (): BuiltWith | undefined => useBuiltFrom()?.settings;

/** What the image on the board was built with, as the checks of the record take it; nothing while nobody knows. */
export function useBuiltRecord(): Pick<MachineRecord, 'builtWith' | 'builtPins'> {
  const from = useBuiltFrom();
  return from ? { builtWith: from.settings, builtPins: from.pins } : {};
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
