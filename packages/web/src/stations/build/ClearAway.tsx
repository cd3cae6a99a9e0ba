import type { Build } from '@jolly/contract/endpoints/builds';
import { Button, NativeSelect } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import { askAnewOf, heldOf } from '../../api/held';

const KEEPS = ['5', '10', '20', '50'];

/** Clears away old images by a rule; what goes is named before it goes. */
export function ClearAway() {
  const { machine } = useWorkbench();
  const client = useQueryClient();
  const [keep, setKeep] = useState('10');
  const [asked, setAsked] = useState(false);
  const { refused, act } = useAct(() => askAnewOf(client, machine.id, 'builds'));
  const list = useQuery({
    queryKey: [...heldOf(machine.id, 'builds'), 'clearable', keep],
    queryFn: () => api.clearable({ id: machine.id, keep }),
    meta: { what: 'which images may go' },
  }).data;
  const clear = (builds: Build[]) =>
    act(async () => {
      setAsked(false);
      await api.clearBuilds({ id: machine.id }, { keep: Number(keep), ids: builds.map(({ id }) => id) });
    });
  const names = (list ?? []).flatMap((build) => (build.state === 'done' ? [build.buildId] : []));
  return (
    <section aria-label="Clear away">
      <h3>Clear away old images</h3>
      <div className="row">
        <NativeSelect
          label="Keep the newest"
          data={KEEPS}
          value={keep}
          onChange={({ currentTarget }) => {
            setKeep(currentTarget.value);
            setAsked(false);
          }}
        />
        {list && list.length > 0 && !asked && (
          <Button variant="default" onClick={() => setAsked(true)}>
            Clear away {list.length} {list.length === 1 ? 'image' : 'images'} …
          </Button>
        )}
        {list && asked && (
          <>
            <Button color="red" onClick={() => void clear(list)}>
              Clear away {names.join(', ')}
            </Button>
            <Button variant="default" onClick={() => setAsked(false)}>
              Keep them
            </Button>
          </>
        )}
      </div>
      <p className="soft">
        {list === undefined
          ? 'Looking up what may go.'
          : list.length === 0
            ? 'Nothing may go: the newest, pinned builds, and images that were flashed, proven or kept, always stay.'
            : 'Their settings, sizes and logs stay, and the same settings give the same image again. Pinned builds, and images that were flashed, proven or kept, are not among them.'}
      </p>
      <Refused why={refused} />
    </section>
  );
}
