import type { SharedSetting as Shared } from '@jolly/contract/endpoints/fleet';
import type { Option } from '@jolly/core/kit/kit';
import { refusal } from '@jolly/core/kit/kit';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { deedsOf } from '@jolly/session/deeds';
import { Button, TextInput } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { askAnew, askAnewOf } from '../../api/held';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Fleet.module.css';
import { SettingWanted } from './SettingWanted';
import { useOptions } from './useOptions';
import { wantedValue } from './wantedValue';

interface Named {
  id: string;
  name: string;
}
/** A value that was looked at, and what it would make of each machine. */
interface Tried {
  option: Option;
  value: SettingValue;
  each: readonly Shared[];
}

/** One setting changed on several machines: what it would make of each is shown first. */
export function SharedSetting({ machines }: { machines: readonly Named[] }) {
  const options = useOptions();
  const [typed, setTyped] = useState({ key: '', text: '' });
  const [tried, setTried] = useState<Tried>();
  const [said, setSaid] = useState<string>();
  const { refused, act } = useAct();
  const option = options.get(typed.key);
  const change = (next: typeof typed) => {
    setTyped(next);
    setTried(undefined);
  };
  const look = () =>
    act(async () => {
      setSaid(undefined);
      const value = option && wantedValue(option, typed.text);
      if (!option || value === undefined) return `“${typed.text}” is no value of this setting`;
      const wrong = refusal(option, value);
      if (wrong !== undefined) return wrong;
      const machinesToTry = machines.map(({ id }) => id);
      setTried({ option, value, each: await api.trySetting({ key: option.key, value, machines: machinesToTry }) });
      return undefined;
    });
  return (
    <section className={css.part} aria-label="One setting on several">
      <h2>{`One setting on ${machines.map(({ name }) => name).join(', ')}`}</h2>
      <div className="row">
        <SettingWanted
          options={options}
          settingKey={typed.key}
          choose={(key) => change({ key, text: '' })}
          text={typed.text}
          type={(text) => change({ ...typed, text })}
        />
        <Button size="xs" variant="default" disabled={!option || typed.text.trim() === ''} onClick={() => void look()}>
          Look what it makes of each
        </Button>
      </div>
      <Refused why={refused} />
      {tried && (
        <Looked
          tried={tried}
          done={(words) => {
            setSaid(words);
            setTried(undefined);
          }}
        />
      )}
      {said && <p role="status">{said}</p>}
    </section>
  );
} // prettier-ignore

const named = (of: readonly Shared[]): string => of.map(({ machine }) => machine.name).join(', ');

/** What a value makes of each machine, and the act that sets it on those that take it. */
function Looked({ tried: { option, value, each }, done }: { tried: Tried; done: (said: string) => void }) {
  const client = useQueryClient();
  const [because, setBecause] = useState('');
  const { refused, act } = useAct();
  const takes = each.filter(({ leftOut }) => leftOut === undefined);
  const apply = () =>
    act(async () => {
      const versions = Object.fromEntries(takes.map(({ machine }) => [machine.id, machine.version]));
      await api.shareSetting({ key: option.key, value, because, versions });
      const label = `${option.label}: ${settingInWords(option, value)}, set on several machines`;
      for (const { machine } of takes)
        deedsOf(machine.id, sessionStorage).did({ kind: 'machine', label, version: machine.version + 1 });
      done(`Set on ${named(takes)}. Undo it at each machine.`);
      for (const { machine } of takes) void askAnewOf(client, machine.id, 'machine', 'edits', 'entries');
      await askAnew(client, 'machines');
    });
  return (
    <>
      <ul className={css.tried}>
        {each.map((one) => (
          <li key={one.machine.id} data-out={one.leftOut !== undefined}>
            <b>{one.machine.name}</b> {madeOf(one, option, value)}
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
      <Refused why={refused} />
    </>
  );
} // prettier-ignore

/** What one machine would become by a value, or why it stays as it is. */
function madeOf({ before, leftOut, brings, settles, build }: Shared, option: Option, value: SettingValue): string {
  const was = before === undefined ? undefined : settingInWords(option, before);
  if (leftOut !== undefined) return `stays as it is${was === undefined ? '' : `, ${was}`}: ${leftOut}`;
  const told = (of: Shared['brings']) => of.map(({ what }) => what).join(' ');
  return [
    `${was ?? 'not set'} → ${settingInWords(option, value)}.`,
    build ? 'Build and flash for it to count.' : 'It can be told to the board, and stored there.',
    brings.length === 0 ? 'No new finding.' : `New: ${told(brings)}`,
    ...(settles.length > 0 ? [`Settles: ${told(settles)}`] : []),
  ].join(' ');
} // prettier-ignore
