import type { Planned } from '@jolly/contract/endpoints/archives';
import { Button, Modal, NativeSelect, Progress } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { askedOf } from '../../api/asked';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { bringIn } from './bringIn';
import css from './Shelf.module.css';
import { askAnew } from '../../api/held';

type Choice = 'leave' | 'another' | 'replace';
const CHOICES: readonly { value: Choice; label: string }[] = [
  { value: 'leave', label: 'leave what stands here, and take nothing' },
  { value: 'another', label: 'take it in beside, under an id of its own' },
  { value: 'replace', label: 'put it in its place: what stands here is lost' },
];
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
      await askAnew(client, 'machines', 'archive', 'catalogue');
      onClose();
    });
  const wanted =
    plan?.filter(({ id, state }) => state === 'new' || (choices[id] ?? 'leave') !== 'leave').length ?? 0;
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
                  data={[{ value: '', label: 'choose …' }, ...CHOICES]}
                  onChange={({ currentTarget: { value } }) =>
                    setChoices((now) => {
                      const chosen = CHOICES.find((one) => one.value === value)?.value;
                      return chosen ? { ...now, [id]: chosen } : now;
                    })
                  }
                />
              )}
              {choices[id] === 'replace' && <Lost id={id} name={name} />}
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

/** What is lost where an archive's machine takes the place of one that stands here. */
function Lost({ id, name }: { id: string; name: string }) {
  const entries = useQuery(askedOf.entries(id));
  const photos = useQuery(askedOf.photos(id));
  if (!entries.data || !photos.data)
    return <p role="alert">What of {name} would be lost is being looked up.</p>;
  return (
    <p role="alert">
      {`${name} as it stands here is lost for good: ${entries.data.length} logbook entries, ${photos.data.length} photos, its jobs, builds and proofs. Save it as an archive first, where you may want it again.`}
    </p>
  );
}
