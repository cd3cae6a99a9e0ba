import type { Plate } from '@jolly/contract/endpoints/machines';
import { deedsOf } from '@jolly/session/deeds';
import { Button, Modal, TextInput } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { askAnew } from '../../api/held';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';

/** What stands in a dialog begins anew each time it opens: it is made then. */
interface Asked {
  plate: Plate;
  opened: boolean;
  close: () => void;
}

const NAME = { maxLength: 40, 'data-autofocus': true } as const;

/** Does something with a machine, then closes the dialog and asks for the shelf anew. */
function useDone(close: () => void) {
  const client = useQueryClient();
  const { busy, refused, act } = useAct();
  const done = (work: () => Promise<unknown>) =>
    act(async () => {
      await work();
      close();
      await askAnew(client, 'machines', 'archive', 'demo');
    });
  return { busy, refused, done };
}

export function CopyDialog({ plate: { machine }, opened, close }: Asked) {
  return (
    <Modal opened={opened} onClose={close} title={`A copy of ${machine.name}`}>
      <Copy machine={machine} close={close} />
    </Modal>
  );
}

function Copy({ machine, close }: { machine: Plate['machine']; close: () => void }) {
  const [name, setName] = useState(`${machine.name} 2`);
  const { busy, refused, done } = useDone(close);
  return (
    <>
      <p className="soft">
        What the machine is comes along. What was measured, looked at or set aside on it does not: offset,
        map, PID, currents, jumpers, markings. Nor do its logbook, builds, proofs and photos.
      </p>
      <TextInput
        label="Name of the copy"
        value={name}
        {...NAME}
        onChange={(event) => setName(event.currentTarget.value)}
      />
      <Refused why={refused} />
      <div className="row">
        <Button
          disabled={busy || name.trim() === ''}
          onClick={() => void done(() => api.copyMachine({ id: machine.id }, { name }))}
        >
          Copy {machine.name}
        </Button>
      </div>
    </>
  );
}

export function RenameDialog({ plate: { machine }, opened, close }: Asked) {
  return (
    <Modal opened={opened} onClose={close} title={`Rename ${machine.name}`}>
      <Rename machine={machine} close={close} />
    </Modal>
  );
}

async function nameAndPlace(id: string, name: string, place: string): Promise<void> {
  // As it stands now: the plate may be older than the last change.
  const { machine: now, version } = await api.machine({ id });
  const label = `Name and place: ${name}, ${place}`;
  const saved = await api.saveMachine({ id }, { machine: { ...now, name, place }, version, label });
  deedsOf(id, sessionStorage).did({ kind: 'machine', label, version: saved.version });
}

function Rename({ machine, close }: { machine: Plate['machine']; close: () => void }) {
  const [name, setName] = useState(machine.name);
  const [place, setPlace] = useState(machine.place);
  const { busy, refused, done } = useDone(close);
  return (
    <>
      <p className="soft">Its id stays {machine.id}. The display shows the new name with the next image.</p>
      <TextInput
        label="What you call it"
        value={name}
        {...NAME}
        onChange={(event) => setName(event.currentTarget.value)}
      />
      <TextInput
        label="Where it stands"
        value={place}
        maxLength={80}
        onChange={(event) => setPlace(event.currentTarget.value)}
      />
      <Refused why={refused} />
      <div className="row">
        <Button
          disabled={busy || name.trim() === '' || place.trim() === ''}
          onClick={() => void done(() => nameAndPlace(machine.id, name.trim(), place.trim()))}
        >
          Keep this name
        </Button>
      </div>
    </>
  );
}

export function DeleteDialog({ plate: { machine, proofs }, opened, close }: Asked) {
  const { busy, refused, done } = useDone(close);
  return (
    <Modal opened={opened} onClose={close} title={`Delete ${machine.name}?`}>
      <p>
        Off the shelf go its machine file, logbook, builds, {proofs?.length ?? 0} proofs, photos and kept
        images. You can put it back from <em>Not on the shelf</em> below the shelf.
      </p>
      <Refused why={refused} />
      <div className="row">
        <Button
          color="red"
          disabled={busy}
          onClick={() => void done(() => api.putAway({ id: machine.id }, { at: 'bin' }))}
        >
          Delete {machine.name}
        </Button>
        <Button variant="default" data-autofocus onClick={close}>
          Keep it
        </Button>
      </div>
    </Modal>
  );
}
