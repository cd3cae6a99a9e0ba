import { figureInWords } from '@jolly/core/text/figureInWords';
import { Button, NativeSelect } from '@mantine/core';
import type { BuildInput } from '@jolly/contract/endpoints/builds';
import { compareFiles } from '@jolly/core/build/fileDifferences';
import { optionOf } from '@jolly/core/kit/optionOf';
import { machineDifferences } from '@jolly/core/machine/machineDifferences';
import { pathInWords } from '@jolly/core/machine/pathInWords';
import { shortly } from '@jolly/session/inWords';
import type { Difference } from '@jolly/core/tree/differences';
import { skipToken, useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { Refused } from '../../ui/Refused';
import { SettingName } from '../../ui/SettingName';
import { useAct } from '../../ui/useAct';
import { ValueChange } from '../../ui/ValueChange';
import { dayOf, whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import { useCalibrations } from '../calibrate/useCalibrations';
import css from './SideBySide.module.css';

/** A state of the machine: as it is now, or as it was when something was built. */
interface State extends BuildInput {
  id: string;
  label: string;
  at: string;
  imageHash?: string;
}

/** Any two states held against each other: settings, wiring, image, values, files; and the way back to the earlier one. */
export function SideBySide() {
  const { machine } = useWorkbench();
  const { builds } = useStation();
  const [search, setSearch] = useSearchParams();
  const done = builds.flatMap((build) => (build.state === 'done' ? [build] : []));
  const options = [
    { value: 'now', label: 'as it is now' },
    ...done.map(({ id, buildId, startedAt, label }) => ({ value: id, label: `${buildId}, ${whenOf(startedAt)}${label ? `, ${label}` : ''}` })),
  ];
  const one = useStateOf(search.get('one') ?? done[0]?.id, done);
  const other = useStateOf(search.get('other') ?? 'now', done);
  const set = (name: string, value: string) =>
    setSearch((now) => {
      const next = new URLSearchParams(now);
      next.set(name, value);
      return next;
    }, { replace: true });
  if (done.length === 0)
    return <p className="soft">Nothing was built here yet. Each build keeps its settings, and can be held against another.</p>;
  return (
    <section aria-label="Two states">
      <div className="row">
        <NativeSelect size="xs" label="The earlier" data={options} value={search.get('one') ?? done[0]?.id ?? 'now'} onChange={(event) => set('one', event.currentTarget.value)} />
        <NativeSelect size="xs" label="Against" data={options} value={search.get('other') ?? 'now'} onChange={(event) => set('other', event.currentTarget.value)} />
      </div>
      {one && other ? <Compared one={one} other={other} name={machine.name} /> : <p className="soft">Both are read.</p>}
    </section>
  );
} // prettier-ignore

/** A state by its id; undefined while it is read. */
function useStateOf(
  id: string | undefined,
  done: readonly {
    id: string;
    buildId: string;
    startedAt: string;
    label: string;
    imageHash: string;
    clearedAt?: string | undefined;
  }[],
): State | undefined {
  const { machine, settings, files } = useWorkbench();
  const { board } = useStation();
  const build = done.find((one) => one.id === id);
  const input = useQuery({
    queryKey: ['input', id],
    queryFn: build ? () => api.buildInput({ id: build.id }) : skipToken,
    meta: { what: 'what the build was made from' },
    staleTime: Infinity,
  });
  if (id === 'now')
    return {
      id,
      label: 'as it is now',
      at: '9999',
      machine,
      settings: [...settings.entries()].map(([key, { value, source }]) => ({ key, value, source })),
      files,
      ...(board?.imageHash && { imageHash: board.imageHash }),
    };
  if (!build || !input.data) return undefined;
  const { buildId, startedAt, imageHash, clearedAt } = build;
  return {
    id: build.id,
    label: buildId,
    at: startedAt,
    ...input.data,
    ...(clearedAt === undefined && { imageHash }),
  };
}

function Compared({ one, other, name }: { one: State; other: State; name: string }) {
  const { machine, kit, replace } = useWorkbench();
  const { data } = useCalibrations(machine.id);
  const { refused, act } = useAct();
  const [said, setSaid] = useState<string>();
  const was = new Map(one.settings.map(({ key, value }) => [key, value]));
  const is = new Map(other.settings.map(({ key, value }) => [key, value]));
  const keys = [...new Set([...was.keys(), ...is.keys()])].filter((key) => was.get(key) !== is.get(key));
  const facts = machineDifferences(one.machine, other.machine).filter(({ path }) => path[0] !== 'settings');
  const wiring = facts.filter(({ path }) => ['harness', 'cables', 'jumpers', 'pins'].includes(String(path[0])));
  const rest = facts.filter((entry) => !wiring.includes(entry));
  const files = compareFiles(one.files, other.files).filter(({ differs }) => differs > 0);
  const values = valuesApart(data?.calibrations ?? [], one.at, other.at);
  const back = async () => {
    setSaid(undefined);
    if (await act(() => replace(`Back to ${one.label} of ${dayOf(one.at)}`, one.machine)))
      setSaid(`The machine file is as it was when ${one.label} was built. Undo takes it back.`);
  };
  return (
    <>
      <p>
        {one.imageHash !== undefined && one.imageHash === other.imageHash
          ? 'The same image. '
          : `Image: ${imageInWords(one)}; ${imageInWords(other)}. `}
        {one.imageHash && <Link to={`/machines/${machine.id}/flash?route=files&image=${one.imageHash}`}>{`Save or flash that of ${one.label}`}</Link>}
      </p>
      <div className={css.columns}>
        <Column title="Settings">
          {keys.map((key) => (
            <li key={key}>
              <SettingName option={optionOf(kit, key)} settingKey={key} />{' '}
              <ValueChange option={optionOf(kit, key)} from={was.get(key)} to={is.get(key)} />
            </li>
          ))}
        </Column>
        <Column title="Wiring">{inLines(wiring.map(differenceInWords))}</Column>
        <Column title="Other facts">{inLines(rest.map(differenceInWords))}</Column>
        <Column title="Measured">{inLines(values)}</Column>
        <Column title="Generated files">
          {inLines(files.map(({ path, differs }) => `${path}: ${counted(differs, 'line')}`))}
        </Column>
      </div>
      {one.id !== 'now' && (
        <section className={css.back} aria-label="Go back">
          <h4>{`Go back to ${one.label}?`}</h4>
          {keys.length + facts.length === 0 ? (
            <p className="soft">Both machine files are the same: there is nothing to go back to.</p>
          ) : (
            <p>
              {`The machine file of ${name} becomes what it was then: ${counted(keys.length, 'setting')} and ${counted(facts.length, 'other fact')} change, as listed. `}
              The board is not touched: flash its image, or build, for it to count. What was proven and measured
              since stays on record; what rests on facts that change is due again. An open job goes on from there.
            </p>
          )}
          <Button size="xs" variant="default" disabled={keys.length + facts.length === 0} onClick={() => void back()}>
            {`Go back to the settings of ${one.label}`}
          </Button>
          {said && <p role="status">{said}</p>}
          <Refused why={refused} />
        </section>
      )}
    </>
  );
} // prettier-ignore

/** The image of a state: of the machine as it is now, what the board holds. */
function imageInWords({ id, label, imageHash }: State): string {
  if (id === 'now')
    return imageHash ? `the board holds ${imageHash.slice(0, 8)}` : 'what the board holds is not on record';
  return `${label} made ${imageHash?.slice(0, 8) ?? 'one that was cleared away'}`;
}

function Column({ title, children }: { title: string; children: readonly ReactNode[] }) {
  return (
    <div>
      <h4>{title}</h4>
      {children.length === 0 ? <p className="soft">All the same.</p> : <ul>{children}</ul>}
    </div>
  );
}

const counted = (many: number, what: string) => `${many} ${what}${many === 1 ? '' : 's'}`;

const inLines = (lines: readonly string[]) => lines.map((line) => <li key={line}>{line}</li>);

const differenceInWords = ({ path, from, to }: Difference): string =>
  `${pathInWords(path)}: ${shortly(from)} → ${shortly(to)}`;

/** Figures whose last value differs between two times. */
function valuesApart(
  calibrations: readonly {
    at: string;
    figures: readonly { id: string; label: string; value: number; unit: string }[];
  }[],
  one: string,
  other: string,
): string[] {
  const lastAt = (until: string) => {
    const last = new Map<string, { label: string; value: number; unit: string }>();
    for (const { at, figures } of [...calibrations].reverse())
      if (at <= until) for (const { id, ...figure } of figures) last.set(id, figure);
    return last;
  };
  const [was, is] = [lastAt(one), lastAt(other)];
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((id) => {
    const [a, b] = [was.get(id), is.get(id)];
    if (a?.value === b?.value) return [];
    const { label, unit } = a ?? b ?? { label: id, unit: '' };
    const told = (one: typeof a) => (one ? figureInWords(one.value) : 'not on record');
    return [`${label}: ${told(a)} → ${told(b)} ${unit}`.trim()];
  });
}
