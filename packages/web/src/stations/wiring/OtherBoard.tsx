import { Button, NativeSelect } from '@mantine/core';
import { useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { useJob } from '../../job/JobProvider';
import type { SwapPreview } from '../../workbench/coreWorker';
import { useWorkbench } from '../../workbench/Workbench';
import { CannotConnect } from './CannotConnect';
import type { Wiring } from './useWiring';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';

/** What a swap to another board would ask of your hands, before any job is open. */
export function OtherBoard({
  wiring,
  preview,
  onPreview,
}: {
  wiring: Wiring;
  preview: SwapPreview | undefined;
  onPreview: (preview: SwapPreview | undefined) => void;
}) {
  const { core, facts } = useWorkbench();
  const job = useJob();
  const { refused, act } = useAct();
  const { board: own } = wiring.after;
  const boards = facts.catalogue.boards.filter(
    ({ id, revision }) => id !== own.id || revision !== own.revision,
  );
  const look = async (key: string) => {
    const board = boards.find(({ id, revision }) => `${id} ${revision}` === key);
    onPreview(board && (await core.swapTo(wiring.after, board.id, board.revision)));
  };
  // Another station may have named a board.
  const [search] = useSearchParams();
  const named = search.get('to') ?? '';
  useEffect(() => {
    if (named !== '') void look(named);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for the board that was named
  }, [named]);
  const open = (swap: SwapPreview) =>
    act(() =>
      job.start({
        title: `From ${swap.plan.from} to ${swap.plan.to}`,
        reason: 'feature',
        changes: [swap.change],
        taken: [swap.change.id],
      }),
    );
  return (
    <div className="row">
      <NativeSelect
        size="xs"
        label="The swap to another board would be"
        data={[
          { value: '', label: 'choose a board …' },
          ...boards.map(({ id, revision, name }) => ({
            value: `${id} ${revision}`,
            label: `${name} rev ${revision}`,
          })),
        ]}
        defaultValue={boards.some(({ id, revision }) => `${id} ${revision}` === named) ? named : ''}
        onChange={(event) => void look(event.currentTarget.value)}
      />
      {preview && (
        <Button size="xs" variant="default" onClick={() => void open(preview)}>
          Open this as a job
        </Button>
      )}
      <CannotConnect list={preview?.unmeetable ?? []} />
      <Refused why={refused} />
    </div>
  );
}
