import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, buildEventsUrl } from '../../api/api';
import type { Build } from '@jolly/contract/endpoints/builds';
import type { RunProgress } from '../../app/useRunEvents';
import { tape } from '../../app/tape/tape';
import { askAnewOf } from '../../api/held';
import { useAct } from '../../ui/useAct';

/** Starts, follows and cancels builds; one that was running when the page was loaded is followed on. */
export function useBuild(machineId: string, builds: Build[]) {
  const client = useQueryClient();
  const { write } = tape;
  const [progress, setProgress] = useState<RunProgress>();
  const running = builds.find((build) => build.state === 'running');
  const runningId = running?.id;
  /** What was already written, because a stream that is taken up again tells everything from the start. */
  const told = useRef(0);

  const refresh = useCallback(
    () => askAnewOf(client, machineId, 'builds', 'entries', 'board'),
    [client, machineId],
  );

  useEffect(() => {
    if (!runningId) return;
    const events = new EventSource(buildEventsUrl(runningId));
    told.current = 0;
    events.addEventListener('progress', (event) => {
      // Our own server's event, by the contract.
      const news = JSON.parse((event as MessageEvent<string>).data) as RunProgress & { log?: string };
      setProgress(news);
      if (news.done < told.current) return;
      told.current = news.done;
      if (news.log) write('build', ...news.log.trim().split('\n'));
    });
    events.addEventListener('ended', (event) => {
      // Our own server's event, by the contract.
      const build = JSON.parse((event as MessageEvent<string>).data) as Build;
      events.close();
      setProgress(undefined);
      write(
        'build',
        build.state === 'done'
          ? `Build ${build.buildId} done`
          : build.state === 'failed'
            ? `Build failed: ${build.failed.message}`
            : `Build ${build.state}`,
      );
      void refresh();
    });
    return () => events.close();
  }, [runningId, refresh, write]);

  const { refused, act } = useAct(refresh);
  const start = () =>
    act(async () => {
      await api.startBuild({ id: machineId });
    });
  const cancel = () =>
    act(async () => {
      if (runningId) await api.cancelBuild({ id: runningId });
    });

  return { running: running !== undefined, progress, refused, start, cancel };
}
