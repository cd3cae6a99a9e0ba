import type { Build } from '@jolly/contract/endpoints/builds';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
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
  /** The build whose search ended by itself: it found something, or it broke off. */
  const [ran, setRan] = useState<string>();
  const cancelled = useRef(false);
  const ended = useCallback(() => {
    setOf(undefined);
    if (machineId === undefined) return;
    // What was found is known before it is said that nothing was.
    void askAnewOf(client, machineId, 'builds').then(() => setRan(cancelled.current ? undefined : build?.id));
  }, [client, machineId, build?.id]);
  const progress = useRunEvents(running ? culpritEventsUrl(build.id) : undefined, ended);
  const ask = (what: 'findCulprit' | 'cancelCulprit') =>
    act(async () => {
      if (!build) return;
      cancelled.current = what === 'cancelCulprit';
      setRan(undefined);
      await api[what]({ id: build.id });
      if (what === 'findCulprit') setOf(build.id);
    });
  const brokeOff = build?.state === 'failed' && ran === build.id && !build.culprit;
  return {
    running,
    progress,
    refused: refused ?? (brokeOff ? 'What breaks it was looked for, and the search broke off.' : undefined),
    start: () => void ask('findCulprit'),
    cancel: () => void ask('cancelCulprit'),
  };
}
