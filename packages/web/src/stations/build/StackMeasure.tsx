import type { StackRun } from '@jolly/bench';
import type { Build } from '@jolly/contract/endpoints/builds';
import { whyOf } from '@jolly/core/text/whyOf';
import { Button } from '@mantine/core';
import { useMutation } from '@tanstack/react-query';
import { wrap } from 'comlink';
import { api, imageBytes } from '../../api/api';
import type { DryRunWorker } from '../../bench/dryRunWorker';
import { useWorkbench } from '../../workbench/Workbench';

/** Runs a built image on the bench and tells how much of its stack it needed there. */
export function StackMeasure({ build }: { build: Extract<Build, { state: 'done' }> }) {
  const { facts } = useWorkbench();
  const run = useMutation({
    // The machine it was built from: another would not fit its pins.
    mutationFn: async (): Promise<StackRun | undefined> => {
      const thread = new Worker(new URL('../../bench/dryRunWorker.ts', import.meta.url), { type: 'module' });
      try {
        const [{ machine }, image] = await Promise.all([
          api.buildInput({ id: build.id }),
          imageBytes(build.imageHash),
        ]);
        return await wrap<DryRunWorker>(thread).stackRun(machine, facts.catalogue, image);
      } finally {
        thread.terminate();
      }
    },
  });
  return (
    <div className="row" role="group" aria-label="Stack">
      <Button
        size="xs"
        variant="default"
        loading={run.isPending}
        disabled={build.clearedAt !== undefined}
        onClick={() => run.mutate()}
      >
        Measure the stack on the bench
      </Button>
      <span className="soft" aria-live="polite">
        {run.isPending
          ? 'The image runs on the bench.'
          : run.error
            ? `It could not be measured: ${whyOf(run.error)}`
            : run.data
              ? inWords(run.data)
              : 'How much of the stack it needs is not measured yet.'}
      </span>
    </div>
  );
}

const inWords = ({ usedBytes, reservedBytes, did }: StackRun): string =>
  `${usedBytes.toLocaleString('en')} of ${reservedBytes.toLocaleString('en')} bytes were used at most while it ${did.slice(0, -1).join(', ')} and ${did.at(-1) ?? 'booted'}. What you do otherwise may take more.`;
