import type { Planned } from '@jolly/contract/endpoints/archives';
import { Button, Modal, NativeSelect, Progress } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { bringIn } from './bringIn';
import css from './Shelf.module.css';

type Choice = 'leave' | 'another';
const WORDS: Readonly<Record<Planned['state'], string>> = {
  new: 'is taken in, with all that belongs to it',
  same: 'stands here already, the same',
  different: 'stands here, and is different:',
};

/** An archive on its way in: how far it is, what would become of each machine, and only then anything is changed. */
export function ArchiveIn({ file, onClose }: { file: File; onClose: () => void }) {
  const client = useQueryClient();
  const [share, setShare] = useState(0);
  const [upload, setUpload] = useState<string>();
  const [plan, setPlan] = useState<Planned[]>();
  const [choices, setChoices] = useState<Record<string, Choice>>({});
  const { busy, refused, act } = useAct();
  const leaving = useRef(new AbortController());
  useEffect(() => {
    const going = new AbortController();
    leaving.current = going;
    void act(async () => {
      const id = await bringIn(file, setShare, going.signal);
      if (id === undefined) return;
      setUpload(id);
      setPlan(await api.uploadPlan({ id }));
    });
    return () => going.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- one file, brought in once
  }, [file]);
  const close = () => {
    leaving.current.abort();
    // It may be gone already: then there is nothing to throw away.
    if (upload) void api.dropUpload({ id: upload }).catch(() => undefined);
    onClose();
  };
  const take = () =>
    act(async () => {
      if (!upload) return;
      await api.takeUpload({ id: upload }, { choices });
      for (const queryKey of [['machines'], ['archive'], ['catalogue']])
        await client.invalidateQueries({ queryKey });
      onClose();
    });
  const wanted = plan?.filter(({ id, state }) => state === 'new' || choices[id] === 'another').length ?? 0;
  const undecided = plan?.filter(({ id, state }) => state === 'different' && !choices[id]).length ?? 0;
  return (
    <Modal opened onClose={close} title={file.name} size="lg">
      {!plan && !refused && (
        <>
          <p role="status">{share < 1 ? 'Bringing it in …' : 'Looking it through …'}</p>
          <Progress value={share * 100} aria-label="How much of it has come in" />
        </>
      )}
      {plan && (
        <ul className={css.plan}>
          {plan.map(({ id, name, state }) => (
            <li key={id}>
              <b>{name}</b> {WORDS[state]}
              {state === 'different' && (
                <NativeSelect
                  aria-label={`What becomes of ${name}`}
                  value={choices[id] ?? ''}
                  data={[
                    { value: '', label: 'choose …' },
                    { value: 'leave', label: 'leave what stands here, and take nothing' },
                    { value: 'another', label: 'take it in beside, under an id of its own' },
                  ]}
                  onChange={({ currentTarget: { value } }) =>
                    setChoices((now) =>
                      value === 'leave' || value === 'another' ? { ...now, [id]: value } : now,
                    )
                  }
                />
              )}
            </li>
          ))}
        </ul>
      )}
      <Refused why={refused} />
      <div className="row">
        {plan && (
          <Button disabled={busy || undecided > 0 || wanted === 0} onClick={() => void take()}>
            {wanted === 0 ? 'Nothing to take in' : `Take ${wanted} in`}
          </Button>
        )}
        <Button variant="default" onClick={close}>
          {plan || refused ? 'Leave it' : 'Cancel'}
        </Button>
      </div>
    </Modal>
  );
}
