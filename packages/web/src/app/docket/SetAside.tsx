import { Button, TextInput } from '@mantine/core';
import type { Finding } from '@jolly/core/finding/finding';
import { BY_NAME, waiveEdit } from '@jolly/core/finding/waiver';
import { useState } from 'react';
import { useWorkbench } from '../../workbench/Workbench';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Docket.module.css';

/** Sets a finding aside with a reason; where it can hurt, with the machine's name typed in full. */
export function SetAside({ finding }: { finding: Finding }) {
  const { machine, change } = useWorkbench();
  const [open, setOpen] = useState(false);
  const [because, setBecause] = useState('');
  const [name, setName] = useState('');
  const { refused, act } = useAct();
  const byName = BY_NAME.has(finding.id);

  if (finding.waived !== undefined)
    return (
      <>
        <Button
          size="xs"
          variant="default"
          onClick={() => void act(() => change(`Taken up again: ${finding.what}`, [waiveEdit(finding)]))}
        >
          Take it up again
        </Button>
        <Refused why={refused} />
      </>
    );
  if (!open)
    return (
      <Button size="xs" variant="subtle" onClick={() => setOpen(true)}>
        Set it aside
      </Button>
    );
  const save = async () => {
    if (because.trim().length < 5) return 'Say why, in a few words';
    if (byName && name !== machine.name) return `Type the name of the machine, ${machine.name}, exactly`;
    return change(`Set aside: ${finding.what} ${because.trim()}`, [
      waiveEdit(finding, { because: because.trim(), ...(byName && { machine: name }) }),
    ]);
  };
  return (
    <form
      className={css.aside}
      onSubmit={(event) => {
        event.preventDefault();
        void act(save);
      }}
    >
      {byName && (
        <p className={css.caution}>
          <b>Caution:</b> without this guard a sensor that slips out can set the machine on fire. Never leave
          it alone; keep a smoke alarm beside it. It stays on every screen.
        </p>
      )}
      <TextInput
        size="xs"
        label="Because"
        value={because}
        maxLength={300}
        onChange={(event) => setBecause(event.currentTarget.value)}
      />
      {byName && (
        <TextInput
          size="xs"
          label="Name of the machine"
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
        />
      )}
      <Refused why={refused} />
      <div className={css.actions}>
        <Button size="xs" type="submit" color={byName ? 'vermilion' : undefined}>
          Set it aside
        </Button>
        <Button size="xs" variant="default" onClick={() => setOpen(false)}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
