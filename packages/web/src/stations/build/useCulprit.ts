import type { Build } from '@jolly/contract/endpoints/builds';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { api, culpritEventsUrl } from '../../api/api';
import { type RunProgress, useRunEvents } from '../../app/useRunEvents';
import { askAnewOf } from '../../api/held';
import { useAct } from '../../ui/useAct';

export interface CulpritSearch {
  running: boolean;
  progress: RunProgress | undefined;
  refused: string | undefined;
  start: () => void;
  cancel: () => void;
}

/** Looks for the smallest change that breaks a build. */
export function useCulprit(build: Build | undefined): CulpritSearch {
  const client = useQueryClient();
  const [of, setOf] = useState<string>();
  const { refused, act } = useAct();
  const running = build !== undefined && of === build.id;
  const machineId = build?.machineId;
  const ended = useCallback(() => {
    setOf(undefined);
    if (machineId !== undefined) void askAnewOf(client, machineId, 'builds');
  }, [client, machineId]);
  const progress = useRunEvents(running ? culpritEventsUrl(build.id) : undefined, ended);
  const ask = (what: 'findCulprit' | 'cancelCulprit') =>
    act(async () => {
      if (!build) return;
      await api[what]({ id: build.id });
      if (what === 'findCulprit') setOf(build.id);
    });
  return {
    running,
    progress,
    refused,
    start: () => void ask('findCulprit'),
    cancel: () => void ask('cancelCulprit'),
  };
}
