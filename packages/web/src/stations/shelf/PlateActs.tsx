import type { Plate } from '@jolly/contract/endpoints/machines';
import { Button, Menu } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, machineArchiveUrl } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { askAnew } from '../../api/held';
import { CopyDialog, DeleteDialog, RenameDialog } from './plateDialogs';

/** What is done with a machine as a whole. */
export function PlateActs({ plate }: { plate: Plate }) {
  const { machine } = plate;
  const client = useQueryClient();
  const navigate = useNavigate();
  const { refused, act } = useAct();
  const [asked, setAsked] = useState<'copy' | 'rename' | 'delete'>();
  const close = () => setAsked(undefined);
  const putIntoArchive = () =>
    act(async () => {
      await api.putAway({ id: machine.id }, { at: 'archive' });
      await askAnew(client, 'machines', 'archive', 'demo');
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
          <Menu.Item onClick={() => setAsked('copy')}>Copy it</Menu.Item>
          <Menu.Item onClick={() => setAsked('rename')}>Rename it, or say where it stands</Menu.Item>
          <Menu.Item onClick={() => void describe()}>Describe another like it</Menu.Item>
          <Menu.Item component="a" href={machineArchiveUrl(machine.id)} download>
            Save it with its history
          </Menu.Item>
          <Menu.Item onClick={() => void putIntoArchive()}>Archive it</Menu.Item>
          <Menu.Item c="var(--vermilion)" onClick={() => setAsked('delete')}>
            Delete it …
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <Refused why={refused} />
      <CopyDialog plate={plate} opened={asked === 'copy'} close={close} />
      <RenameDialog plate={plate} opened={asked === 'rename'} close={close} />
      <DeleteDialog plate={plate} opened={asked === 'delete'} close={close} />
    </>
  );
}
