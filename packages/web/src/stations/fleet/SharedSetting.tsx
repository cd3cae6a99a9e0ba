import { Autocomplete, Button, TextInput } from '@mantine/core';
import type { SharedSetting as Shared } from '@jolly/contract/endpoints/fleet';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { deedsOf } from '@jolly/session/deeds';
import { valueInWords } from '@jolly/session/inWords';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Fleet.module.css';
import { askAnew, askAnewOf, held } from '../../api/held';

interface Named {
  id: string;
  name: string;
}

/** Text as a value of a setting: on and off, a number, or the text itself. */
function valueOf(text: string): SettingValue {
  const plain = text.trim();
  if (/^(on|true)$/i.test(plain)) return true;
  if (/^(off|false)$/i.test(plain)) return false;
  return plain !== '' && Number.isFinite(Number(plain.replace(',', '.')))
    ? Number(plain.replace(',', '.'))
    : plain;
}

/** One setting changed on several machines: what it would make of each is shown first. */
export function SharedSetting({ machines }: { machines: readonly Named[] }) {
  const client = useQueryClient();
  const catalogue = useQuery({ queryKey: held('catalogue'), queryFn: api.catalogue, staleTime: Infinity });
  const keys = [
    ...new Set((catalogue.data?.kits ?? []).flatMap(({ options }) => options.map(({ key }) => key))),
  ].sort();
  const [key, setKey] = useState('');
  const [text, setText] = useState('');
  const [because, setBecause] = useState('');
  const [tried, setTried] = useState<readonly Shared[]>();
  const { refused, act } = useAct();
  const [said, setSaid] = useState<string>();
  const look = () =>
    act(async () => {
      setSaid(undefined);
      setTried(await api.trySetting({ key, value: valueOf(text), machines: machines.map(({ id }) => id) }));
    });
  const takes = (tried ?? []).filter(({ leftOut }) => leftOut === undefined);
  const apply = () =>
    act(async () => {
      setSaid(undefined);
      const versions = Object.fromEntries(takes.map(({ machine }) => [machine.id, machine.version]));
      await api.shareSetting({ key, value: valueOf(text), because, versions });
      const label = `${key} = ${valueInWords(valueOf(text))}, set on several machines`;
      for (const { machine } of takes) deedsOf(machine.id, sessionStorage).did({ kind: 'machine', label, version: machine.version + 1 });
      setSaid(`Set on ${takes.map(({ machine }) => machine.name).join(', ')}. Undo it at each machine.`);
      setTried(undefined);
      for (const { machine } of takes) void askAnewOf(client, machine.id, 'machine', 'edits', 'entries');
      await askAnew(client, 'machines');
    });
  const reset = (set: (value: string) => void) => (value: string) => {
    set(value);
    setTried(undefined);
  };
  return (
    <section className={css.part} aria-label="One setting on several">
      <h2>{`One setting on ${machines.map(({ name }) => name).join(', ')}`}</h2>
      <div className="row">
        <Autocomplete size="xs" label="Setting" data={keys} value={key} onChange={reset(setKey)} limit={12} />
        <TextInput size="xs" label="Value" value={text} onChange={(event) => reset(setText)(event.currentTarget.value)} />
        <Button size="xs" variant="default" disabled={key === '' || text.trim() === ''} onClick={() => void look()}>
          Look what it makes of each
        </Button>
      </div>
      {tried && (
        <>
          <ul className={css.tried}>
            {tried.map(({ machine, before, leftOut, brings, settles, build }) => (
              <li key={machine.id} data-out={leftOut !== undefined}>
                <b>{machine.name}</b>{' '}
                {leftOut !== undefined ? (
                  `stays as it is${before === undefined ? '' : `, ${valueInWords(before)}`}: ${leftOut}`
                ) : (
                  <>
                    {`${before === undefined ? 'not set' : valueInWords(before)} → ${valueInWords(valueOf(text))}. `}
                    {build ? 'Build and flash for it to count. ' : 'It can be told to the board, and stored there. '}
                    {brings.length === 0 ? 'No new finding.' : `New: ${brings.map(({ what }) => what).join(' ')}`}
                    {settles.length > 0 && ` Settles: ${settles.map(({ what }) => what).join(' ')}`}
                  </>
                )}
              </li>
            ))}
          </ul>
          {takes.length > 0 && (
            <div className="row">
              <TextInput size="xs" label="Because (ten letters at least)" value={because} onChange={(event) => setBecause(event.currentTarget.value)} />
              <Button size="xs" disabled={because.trim().length < 10} onClick={() => void apply()}>
                {`Set it on ${takes.length} ${takes.length === 1 ? 'machine' : 'machines'}`}
              </Button>
            </div>
          )}
        </>
      )}
      {said && <p role="status">{said}</p>}
      <Refused why={refused} />
    </section>
  );
} // prettier-ignore
