import type { Plate } from '@jolly/contract/endpoints/machines';
import { deedsOf } from '@jolly/session/deeds';
import { Button, Menu, Modal, TextInput } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, machineArchiveUrl } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { askAnew } from '../../api/held';

/** What is done with a machine as a whole. */
export function PlateActs({ plate }: { plate: Plate }) {
  const { machine } = plate;
  const client = useQueryClient();
  const navigate = useNavigate();
  const { busy, refused, act } = useAct();
  const [asked, setAsked] = useState<'copy' | 'rename' | 'delete'>();
  const [place, setPlace] = useState('');
  const [name, setName] = useState('');
  const anew = async () => {
    await askAnew(client, 'machines', 'archive', 'demo');
  };
  const put = (at: 'archive' | 'bin') =>
    act(async () => {
      await api.putAway({ id: machine.id }, { at });
      setAsked(undefined);
      await anew();
    });
  const copy = () =>
    act(async () => {
      await api.copyMachine({ id: machine.id }, { name });
      setAsked(undefined);
      await anew();
    });
  const rename = () =>
    act(async () => {
      // As it stands now: the plate may be older than the last change.
      const { machine: now, version } = await api.machine({ id: machine.id });
      const named = { ...now, name: name.trim(), place: place.trim() };
      const label = `Name and place: ${named.name}, ${named.place}`;
      const saved = await api.saveMachine({ id: machine.id }, { machine: named, version, label });
      deedsOf(machine.id, sessionStorage).did({ kind: 'machine', label, version: saved.version });
      setAsked(undefined);
      await anew();
    });
  const describe = () =>
    act(async () => {
      const { stored } = await api.beginDescription({ from: 'machine', machine: machine.id });
      await askAnew(client, 'descriptions');
      void navigate(`/describe/${stored.id}`);
    });
  return (
    <>
      <Menu withinPortal position="bottom-end">
        <Menu.Target>
          <Button size="compact-sm" variant="subtle" aria-label={`What to do with ${machine.name}`}>
            …
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item
            onClick={() => {
              setName(`${machine.name} 2`);
              setAsked('copy');
            }}
          >
            Copy it
          </Menu.Item>
          <Menu.Item
            onClick={() => {
              setName(machine.name);
              setPlace(machine.place);
              setAsked('rename');
            }}
          >
            Rename it, or say where it stands
          </Menu.Item>
          <Menu.Item onClick={() => void describe()}>Describe another like it</Menu.Item>
          <Menu.Item component="a" href={machineArchiveUrl(machine.id)} download>
            Save it with its history
          </Menu.Item>
          <Menu.Item onClick={() => void put('archive')}>Archive it</Menu.Item>
          <Menu.Item c="var(--vermilion)" onClick={() => setAsked('delete')}>
            Delete it …
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <Refused why={asked === undefined ? refused : undefined} />
      <Modal
        opened={asked === 'copy'}
        onClose={() => setAsked(undefined)}
        title={`A copy of ${machine.name}`}
      >
        <p className="soft">
          What the machine is comes along. What was measured, looked at or set aside on it does not: offset,
          map, PID, currents, jumpers, markings. Nor do its logbook, builds, proofs and photos.
        </p>
        <TextInput
          label="Name of the copy"
          value={name}
          maxLength={40}
          data-autofocus
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <Refused why={refused} />
        <div className="row">
          <Button disabled={busy || name.trim() === ''} onClick={() => void copy()}>
            Copy {machine.name}
          </Button>
        </div>
      </Modal>
      <Modal opened={asked === 'rename'} onClose={() => setAsked(undefined)} title={`Rename ${machine.name}`}>
        <p className="soft">Its id stays {machine.id}. The display shows the new name with the next image.</p>
        <TextInput
          label="What you call it"
          value={name}
          maxLength={40}
          data-autofocus
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
          <Button disabled={busy || name.trim() === '' || place.trim() === ''} onClick={() => void rename()}>
            Keep this name
          </Button>
        </div>
      </Modal>
      <Modal
        opened={asked === 'delete'}
        onClose={() => setAsked(undefined)}
        title={`Delete ${machine.name}?`}
      >
        <p>
          Off the shelf go its machine file, logbook, builds, {plate.proofs?.length ?? 0} proofs, photos and
          kept images. You can put it back from <em>Not on the shelf</em> below the shelf.
        </p>
        <Refused why={refused} />
        <div className="row">
          <Button color="red" disabled={busy} onClick={() => void put('bin')}>
            Delete {machine.name}
          </Button>
          <Button variant="default" data-autofocus onClick={() => setAsked(undefined)}>
            Keep it
          </Button>
        </div>
      </Modal>
    </>
  );
}
