import { Button, Checkbox, FileButton, NativeSelect } from '@mantine/core';
import type { CopyRow } from '@jolly/core/settings/copySettings';
import type { Machine } from '@jolly/core/machine/machine';
import { overrideEdit } from '@jolly/core/machine/edit';
import { whyOf } from '@jolly/core/text/whyOf';
import { type Difference, takeOver } from '@jolly/core/tree/differences';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, machineFileUrl } from '../../api/api';
import { useDropped } from '../../app/drop/dropped';
import { useWorkbench } from '../../workbench/Workbench';
import { pathInWords } from '@jolly/core/machine/pathInWords';
import { changesInShort } from '@jolly/session/inWords';
import { ValueChange } from '../../ui/ValueChange';
import css from './MachineFileView.module.css';
import { PARTS } from '@jolly/session/machineParts';
import { held } from '../../api/held';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';

/** The machine file: taken away whole, brought back with its differences first; settings copied from another machine. */
export function MachineFileView() {
  return (
    <div className={css.view}>
      <FileInAndOut />
      <CopyFrom />
    </div>
  );
}

function FileInAndOut() {
  const { machine, version, core, replace } = useWorkbench();
  const [file, setFile] = useState<{ name: string; text: string }>();
  const { busy, refused, act } = useAct();
  // Held against the machine as it is now, also after a change beside it or in another window.
  const against = useQuery({
    queryKey: ['file-against', machine.id, version, file?.text],
    queryFn: file ? async () => core.readMachine(file.text, machine) : skipToken,
    staleTime: Infinity,
  });
  const found = file ? against.data : undefined;
  const read = file && found && 'differences' in found ? { name: file.name, ...found } : undefined;
  const unread =
    found && 'refused' in found ? found.refused : against.error ? whyOf(against.error) : undefined;

  const open = (chosen: File) => {
    setFile(undefined);
    return act(async () => setFile({ name: chosen.name, text: await chosen.text() }));
  };
  useDropped('machine', (file) => void open(file));
  const take = async (taken: Difference[]) => {
    if (!read) return;
    const after: Machine = takeOver(machine, taken);
    if (await act(() => replace(`${taken.length} values from ${read.name}`, after))) setFile(undefined);
  };

  return (
    <section aria-label="Machine file" className={css.side}>
      <h2>Machine file</h2>
      <p>
        Everything about {machine.name} but its history, as open YAML.{' '}
        <a href="/api/schemas/machine">JSON Schema</a>
      </p>
      <div className="row">
        <Button size="xs" component="a" href={machineFileUrl(machine.id)} download>
          Export {machine.id}.yaml
        </Button>
        <FileButton
          onChange={(file) => file && void open(file)}
          accept=".yaml,.yml"
          inputProps={{ 'aria-label': 'Machine file to compare' }}
        >
          {(props) => (
            <Button size="xs" variant="default" loading={busy || against.isFetching} {...props}>
              Import a file
            </Button>
          )}
        </FileButton>
      </div>
      <Refused why={refused ?? (file && unread && `${file.name}: ${unread}. Nothing was taken over.`)} />
      {read && read.differences.length === 0 && <p role="status">{read.name} says what is here already.</p>}
      {read && read.differences.length > 0 && (
        <Differences read={read} onTake={(taken) => void take(taken)} onLeave={() => setFile(undefined)} />
      )}
    </section>
  );
}

interface ReadFile {
  name: string;
  differences: Difference[];
}

/** What a file says otherwise, value by value; those that are ticked can be taken over. */
function Differences({
  read,
  onTake,
  onLeave,
}: {
  read: ReadFile;
  onTake: (taken: Difference[]) => void;
  onLeave: () => void;
}) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const taken = read.differences.filter(({ path }) => !left.has(path.join('.')));
  const flip = (key: string) =>
    setLeft((now) => new Set(now.has(key) ? [...now].filter((entry) => entry !== key) : [...now, key]));
  return (
    <>
      <h3>
        {read.name} differs in {read.differences.length} {read.differences.length === 1 ? 'value' : 'values'}
      </h3>
      <ul className={css.rows}>
        {read.differences.map(({ path, from, to }) => {
          const key = path.join('.');
          return (
            <li key={key}>
              <Checkbox
                size="xs"
                checked={!left.has(key)}
                onChange={() => flip(key)}
                label={pathInWords(path)}
              />
              {changesInShort(from, to).map((one) => (
                <p className="figures" key={one.label}>
                  {one.label}
                  <s>{one.from}</s> → {one.to}
                </p>
              ))}
            </li>
          );
        })}
      </ul>
      <div className="row">
        <Button size="xs" onClick={() => onTake(taken)} disabled={taken.length === 0}>
          Take {taken.length} over
        </Button>
        <Button size="xs" variant="default" onClick={onLeave}>
          Take nothing
        </Button>
      </div>
    </>
  );
}

function CopyFrom() {
  const { machine, core, change } = useWorkbench();
  const others = useQuery({
    queryKey: held('machines'),
    queryFn: api.machines,
    meta: { what: 'the other machines' },
  });
  const choices = (others.data ?? []).filter((plate) => plate.machine.id !== machine.id && !plate.problems);
  const [from, setFrom] = useState('');
  const [part, setPart] = useState('');
  const { refused, act } = useAct();
  const other = choices.find((plate) => plate.machine.id === from)?.machine;
  const rows = useQuery({
    queryKey: ['copy-rows', machine, other],
    queryFn: other ? () => core.copyRows(machine, other) : skipToken,
    meta: { what: 'where the settings differ' },
  });
  const shown = (other ? (rows.data ?? []) : []).filter(({ option }) => part === '' || option.part === part);
  const copy = (from: string, chosen: CopyRow[]) =>
    change(
      `${chosen.length === 1 ? '1 setting' : `${chosen.length} settings`} copied from ${from}`,
      chosen.map(({ option, theirs }) => overrideEdit(option.key, theirs, `copied from ${from}`)),
    );

  return (
    <section aria-label="Settings from another machine" className={css.side}>
      <h2>Settings from another machine</h2>
      <div className={css.choose}>
        <NativeSelect
          size="xs"
          label="Copy from"
          value={from}
          onChange={(event) => setFrom(event.currentTarget.value)}
          data={[
            { value: '', label: 'choose a machine' },
            ...choices.map((plate) => ({ value: plate.machine.id, label: plate.machine.name })),
          ]}
        />
        <NativeSelect
          size="xs"
          label="Part"
          value={part}
          onChange={(event) => setPart(event.currentTarget.value)}
          data={[
            { value: '', label: 'all parts' },
            ...PARTS.map(({ id, title }) => ({ value: id, label: title })),
          ]}
        />
      </div>
      {other && rows.data && shown.length === 0 && <p>Nothing differs here.</p>}
      {other && shown.length > 0 && (
        <CopyRows key={other.id} rows={shown} onCopy={(chosen) => act(() => copy(other.name, chosen))} />
      )}
      <Refused why={refused} />
    </section>
  );
}

/** Settings that another machine has otherwise; those that are ticked are copied. */
function CopyRows({ rows, onCopy }: { rows: CopyRow[]; onCopy: (chosen: CopyRow[]) => Promise<boolean> }) {
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const chosen = rows.filter(({ option }) => ticked.has(option.key));
  const flip = (keys: string[], on: boolean) =>
    setTicked((now) => new Set(on ? [...now, ...keys] : [...now].filter((key) => !keys.includes(key))));
  const copy = () => onCopy(chosen).then(() => setTicked(new Set()));
  return (
    <>
      <div className="row">
        <Button
          size="xs"
          variant="subtle"
          onClick={() =>
            flip(
              rows.filter(({ against }) => !against).map(({ option }) => option.key),
              true,
            )
          }
        >
          Tick all that make sense here
        </Button>
      </div>
      <ul className={css.rows}>
        {rows.map((row) => (
          <CopyLine
            key={row.option.key}
            row={row}
            ticked={ticked.has(row.option.key)}
            onTick={(on) => flip([row.option.key], on)}
          />
        ))}
      </ul>
      <Button size="xs" onClick={() => void copy()} disabled={chosen.length === 0}>
        Copy {chosen.length} {chosen.length === 1 ? 'setting' : 'settings'}
      </Button>
    </>
  );
}

function CopyLine({ row, ticked, onTick }: { row: CopyRow; ticked: boolean; onTick: (on: boolean) => void }) {
  const { option, mine, theirs, against } = row;
  return (
    <li>
      <Checkbox
        size="xs"
        checked={ticked}
        onChange={(event) => onTick(event.currentTarget.checked)}
        label={option.label}
      />
      <p>
        <ValueChange option={option} from={mine} to={theirs} />
      </p>
      {against && <p className={css.against}>Rather not: {against}.</p>}
    </li>
  );
}
