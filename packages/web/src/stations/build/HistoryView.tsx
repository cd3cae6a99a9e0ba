import type { Build } from '@jolly/contract/endpoints/builds';
import { Button, Checkbox, NativeSelect, TextInput } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useStation } from '../../app/frame/StationContext';
import { Refused } from '../../ui/Refused';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import { ClearAway } from './ClearAway';
import { CompareBuilds } from './CompareBuilds';
import { otherBoardOf } from '@jolly/session/newestBuild';
import { holdsWords } from '@jolly/core/text/holdsWords';
import { useSought } from '../../ui/useSought';
import css from './HistoryView.module.css';
import { SaveImage } from './ImageView';
import { useMarks } from './useMarks';

type Done = Extract<Build, { state: 'done' }>;

const STATE: Readonly<Record<Build['state'], string>> = {
  running: 'running',
  done: 'built',
  failed: 'failed',
  cancelled: 'cancelled',
  interrupted: 'interrupted',
};
const FILTERS = ['all', 'built', 'failed', 'pinned'] as const;
type Filter = (typeof FILTERS)[number];

/** Builds so far: found by words, labelled, pinned, held against each other, flashed again, cleared away. */
export function HistoryView() {
  const { machine } = useWorkbench();
  const { builds, board } = useStation();
  const { words, seek } = useSought(`builds:${machine.id}`);
  const [filter, setFilter] = useState<Filter>('all');
  const [pair, setPair] = useState<string[]>([]);
  const shown = builds.filter((build) => matches(build, filter, words));
  // The newest two that were chosen.
  const toggle = (id: string) =>
    setPair((now) => (now.includes(id) ? now.filter((other) => other !== id) : [...now, id].slice(-2)));
  const [one, other] = pair.flatMap((id) =>
    builds.filter((build): build is Done => build.id === id && build.state === 'done'),
  );
  return (
    <>
      <h2>Builds so far</h2>
      <div className="row">
        <TextInput
          label="Find"
          value={words}
          onChange={(event) => seek(event.currentTarget.value)}
          placeholder="label, build or setting"
        />
        <NativeSelect
          label="Show"
          data={[...FILTERS]}
          value={filter}
          onChange={({ currentTarget }) =>
            setFilter(FILTERS.find((entry) => entry === currentTarget.value) ?? 'all')
          }
        />
        <span className="soft">
          {shown.length} of {builds.length}. Choose two to hold them against each other.
        </span>
      </div>
      {builds.length === 0 ? (
        <p className="soft">Nothing was built yet.</p>
      ) : (
        <ul className={css.builds} aria-label="Builds">
          {shown.map((build) => (
            <BuildRow
              key={build.id}
              build={build}
              inBoard={build.state === 'done' && board?.imageHash === build.imageHash}
              chosen={pair.includes(build.id)}
              onChoose={() => toggle(build.id)}
            />
          ))}
        </ul>
      )}
      {one && other && <CompareBuilds one={one} other={other} />}
      <ClearAway />
    </>
  );
}

function matches(build: Build, filter: Filter, words: string): boolean {
  if (filter === 'pinned' && !build.pinned) return false;
  if (filter === 'built' && build.state !== 'done') return false;
  if (filter === 'failed' && build.state !== 'failed') return false;
  const text = [
    build.label,
    STATE[build.state],
    ...(build.state === 'done' ? [build.buildId, ...build.changed] : []),
    ...(build.state === 'failed' ? [build.failed.message, build.failed.key ?? ''] : []),
  ].join(' ');
  return holdsWords(text, words);
}

function BuildRow({
  build,
  inBoard,
  chosen,
  onChoose,
}: {
  build: Build;
  inBoard: boolean;
  chosen: boolean;
  onChoose: () => void;
}) {
  const { machine, board, facts } = useWorkbench();
  const { mark, refused } = useMarks(build);
  const [label, setLabel] = useState(build.label);
  const done = build.state === 'done' ? build : undefined;
  const other = done && otherBoardOf(done, board, facts.catalogue);
  return (
    <li className={css.build} data-state={build.state}>
      <span>
        {done && (
          <Checkbox
            size="xs"
            aria-label={`Hold build ${done.buildId} against another`}
            checked={chosen}
            onChange={onChoose}
          />
        )}
      </span>
      <span className={css.what}>
        <b className="figures">{done ? done.buildId : STATE[build.state]}</b>
        <time className="figures">{whenOf(build.startedAt)}</time>
      </span>
      <span className={css.said}>
        {done
          ? `${done.sizes.flashBytes.toLocaleString('en')} bytes${inBoard ? ' · in the board' : ''}${other === undefined ? '' : ` · for ${other}`}${changedWords(done.changed)}`
          : build.state === 'failed'
            ? build.failed.message
            : ''}
        {done && (
          <details>
            <summary>Save or flash again</summary>
            <SaveImage build={done} />
            {done.clearedAt === undefined && (
              <Link to={`/machines/${machine.id}/flash?build=${done.id}`}>Flash this image again</Link>
            )}
          </details>
        )}
        <Refused why={refused} />
      </span>
      <TextInput
        size="xs"
        aria-label={`Label of ${done ? `build ${done.buildId}` : 'this build'}`}
        placeholder="label"
        value={label}
        onChange={(event) => setLabel(event.currentTarget.value)}
        onBlur={() => label !== build.label && void mark({ label, pinned: build.pinned })}
        onKeyDown={(event) => event.key === 'Enter' && void mark({ label, pinned: build.pinned })}
      />
      <Button
        size="compact-xs"
        variant={build.pinned ? 'filled' : 'default'}
        aria-pressed={build.pinned}
        disabled={!done}
        onClick={() => void mark({ label, pinned: !build.pinned })}
      >
        {build.pinned ? 'Pinned' : 'Pin'}
      </Button>
    </li>
  );
}

const changedWords = (changed: readonly string[]): string =>
  changed.length === 0
    ? ''
    : ` · changed: ${changed.slice(0, 3).join(', ')}${changed.length > 3 ? ` and ${changed.length - 3} more` : ''}`;
