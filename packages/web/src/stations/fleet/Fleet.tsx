import { Button, Checkbox } from '@mantine/core';
import type { Plate } from '@jolly/contract/endpoints/machines';
import { POLICIES, POLICY_WORDS } from '@jolly/core/fleet/policy';
import { oneOf } from '@jolly/core/tree/keysOf';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api } from '../../api/api';
import { LampSwitch } from '../../app/lamp/LampSwitch';
import { NoServer } from '../../app/frame/NoServer';
import { NotRead } from '../../app/frame/NotRead';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useTitle } from '../../ui/useTitle';
import { dayOf } from '../../ui/when';
import { Apart } from './Apart';
import { BuildQueue } from './BuildQueue';
import css from './Fleet.module.css';
import { SharedSetting } from './SharedSetting';
import { KeptSelect } from '../../ui/KeptSelect';
import { askAnew, held } from '../../api/held';

/** Several machines in one table, and what is done to several of them at once. */
export function Fleet() {
  useTitle('The fleet');
  const machines = useQuery({ queryKey: held('machines'), queryFn: api.machines });
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const plates = (machines.data ?? []).filter(({ problems }) => problems === undefined);
  const broken = (machines.data ?? []).filter(({ problems }) => problems !== undefined);
  const together = plates.filter(({ policy }) => policy === 'all').map(({ machine }) => machine.id);
  const picked = plates.filter(({ machine }) => chosen.includes(machine.id));
  const [first, second] = picked;
  const toggle = (id: string, on: boolean) =>
    setChosen((now) => (on ? [...now, id] : now.filter((one) => one !== id)));
  return (
    <main className={css.fleet}>
      <header>
        <h1>The fleet</h1>
        <Link to="/">‹ Shelf</Link>
        <LampSwitch />
      </header>
      <NoServer />
      <NotRead />
      {!machines.data && (
        <p className="soft" role="status">
          {machines.error ? `The machines cannot be read: ${machines.error.message}` : 'The machines are read.'}
        </p>
      )}
      {broken.length > 0 && <p className="soft">{`Left out, because they cannot be read: ${broken.map(({ machine }) => machine.name).join(', ')}.`}</p>}
      {plates.length > 0 && <Table plates={plates} chosen={chosen} toggle={toggle} />}
      <div className="row">
        {picked.length === 0 && plates.length > 0 && (
          <p className="soft">Tick a machine to set or build something on it; tick two to see where they differ.</p>
        )}
        {together.length > 0 && (
          <Button size="compact-sm" variant="default" onClick={() => setChosen(together)}>
            {together.length === 1 ? 'Tick the one that is for all at once' : `Tick the ${together.length} that go all at once`}
          </Button>
        )}
      </div>
      {first && second && picked.length === 2 && <Apart one={first.machine} other={second.machine} />}
      {picked.length > 0 && <SharedSetting key={chosen.join()} machines={picked.map(({ machine }) => machine)} />}
      {picked.length > 0 && <BuildQueue plates={picked} />}
    </main>
  );
} // prettier-ignore

const HEAD = ['', 'Machine', 'Board', 'Kit', 'Image', 'Proven', 'Due', 'Update'] as const;

function Table({ plates, chosen, toggle }: { plates: readonly Plate[]; chosen: readonly string[]; toggle: (id: string, on: boolean) => void }) {
  const client = useQueryClient();
  const { refused, act } = useAct(() => askAnew(client, 'machines'));
  const setPolicy = (id: string, value: string) =>
    act(async () => {
      await api.setPolicy({ id }, { policy: oneOf(POLICIES, value) ?? null });
    });
  return (
    <>
      <div className={css.scroll}>
        <table className={css.table}>
          <thead>
            <tr>{HEAD.map((title) => <th key={title} scope="col">{title === '' ? <span className="unseen">Chosen</span> : title}</th>)}</tr>
          </thead>
          <tbody>
            {plates.map((plate) => {
              const { machine, image, proofs = [], stepsToProve = 0, dueTitles = [], policy } = plate;
              const proven = proofs.filter(({ outcome }) => outcome === 'proven');
              const newest = proven.map(({ at }) => at).sort().at(-1);
              return (
                <tr key={machine.id}>
                  <td><Checkbox size="xs" aria-label={`Choose ${machine.name}`} checked={chosen.includes(machine.id)} onChange={(event) => toggle(machine.id, event.currentTarget.checked)} /></td>
                  <th scope="row"><Link to={`/machines/${machine.id}/survey`}>{machine.name}</Link></th>
                  <td data-label="Board">{plate.boardName ?? machine.board.id} rev {machine.board.revision}</td>
                  <td data-label="Kit">{plate.kitName ?? machine.kit.id} {machine.kit.version}</td>
                  <td className="figures" data-label="Image">{image?.buildId ?? 'not known'}</td>
                  <td data-label="Proven">{image ? `${proven.length} of ${stepsToProve}${newest ? `, ${dayOf(newest)}` : ''}` : 'unproven'}</td>
                  <td data-label="Due">{dueTitles.length === 0 ? 'none known' : <Link to={`/machines/${machine.id}/calibrate`}>{dueTitles.join(', ')}</Link>}{plate.job && <small>{`What the job “${plate.job.title}” asks for comes on top.`}</small>}</td>
                  <td data-label="Update">
                    <KeptSelect
                      size="xs"
                      aria-label={`When ${machine.name} is updated`}
                      value={policy ?? ''}
                      data={[{ value: '', label: 'not said' }, ...POLICIES.map((value) => ({ value, label: POLICY_WORDS[value].label }))]}
                      onKeep={(chosen) => void setPolicy(machine.id, chosen)}
                    />
                    {policy && <small>{POLICY_WORDS[policy].means}</small>}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <Refused why={refused} />
    </>
  );
} // prettier-ignore
