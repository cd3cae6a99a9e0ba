import { Button, NativeSelect } from '@mantine/core';
import { whyOf } from '@jolly/core/text/whyOf';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useJob } from '../../job/JobProvider';
import type { SwapPreview } from '../../workbench/coreWorker';
import { useWorkbench } from '../../workbench/Workbench';
import { CannotConnect } from './CannotConnect';
import type { Wiring } from './useWiring';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';

const nameOf = ({ id, revision }: { id: string; revision: string }) => `${id} ${revision}`;

/** The swap to another board that is looked at before any job is open, worked out from the machine as it is now. */
export function useOtherBoard({ after }: Wiring) {
  const { core, facts, version } = useWorkbench();
  const { stored } = useJob();
  // Another station may have named a board.
  const [search] = useSearchParams();
  const [to, choose] = useState(search.get('to') ?? '');
  const boards = facts.catalogue.boards.filter((board) => nameOf(board) !== nameOf(after.board));
  // An open job has a sheet of its own.
  const board = stored ? undefined : boards.find((one) => nameOf(one) === to);
  const swap = useQuery({
    queryKey: ['swap-to', after.id, version, to],
    queryFn: board ? async () => core.swapTo(after, board.id, board.revision) : skipToken,
    staleTime: Infinity,
  });
  return {
    boards,
    board,
    choose,
    preview: board ? swap.data : undefined,
    pending: board !== undefined && swap.isPending,
    refused: board && swap.error ? whyOf(swap.error) : undefined,
  };
}

/** What a swap to another board would ask of your hands, before any job is open. */
export function OtherBoard({ other }: { other: ReturnType<typeof useOtherBoard> }) {
  const { boards, board, choose, preview } = other;
  const job = useJob();
  const { refused, act } = useAct();
  const open = (swap: SwapPreview) =>
    act(() =>
      job.start({
        title: `From ${swap.plan.from} to ${swap.plan.to}`,
        reason: 'feature',
        changes: [swap.change],
        // What speaks against it is settled in the job, before the machine file follows.
        taken: swap.contradictions.length === 0 ? [swap.change.id] : [],
      }),
    );
  return (
    <div className="row">
      <NativeSelect
        size="xs"
        label="The swap to another board would be"
        data={[
          { value: '', label: 'choose a board …' },
          ...boards.map((one) => ({ value: nameOf(one), label: `${one.name} rev ${one.revision}` })),
        ]}
        value={board ? nameOf(board) : ''}
        onChange={(event) => choose(event.currentTarget.value)}
      />
      {preview && (
        <Button size="xs" variant="default" onClick={() => void open(preview)}>
          Open this as a job
        </Button>
      )}
      {preview?.contradictions.map(({ id, what, why }) => (
        <p key={id} role="note">
          <strong>{what}</strong> {why}
        </p>
      ))}
      <CannotConnect list={preview?.unmeetable ?? []} />
      <Refused why={refused ?? other.refused} />
    </div>
  );
}
