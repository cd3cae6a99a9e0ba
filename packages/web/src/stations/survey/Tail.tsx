import type { Change } from '@jolly/core/ripple/change';
import type { Consequence, ConsequenceKind } from '@jolly/core/ripple/consequence';
import { CHANGE_TYPES } from '@jolly/core/ripple/changes';
import { useEffect, useRef, useState } from 'react';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { causeMark } from './causeMark';
import { changeInWords } from '@jolly/session/changeInWords';
import { SoughtIn } from '../../ui/SoughtIn';
import { useSought } from '../../ui/useSought';
import css from './Tail.module.css';

interface Row {
  kind: ConsequenceKind;
  title: (list: Consequence[]) => string;
}
const many = (count: number, one: string, more = `${one}s`) => `${count === 1 ? one : more}`;

/** The rows of the picture, in working order. */
const ROWS: Row[] = [
  {
    kind: 'lead',
    title: (list) =>
      `${many(list.length, 'lead')} to move, ${list.filter((entry) => entry.attention).length} with attention`,
  },
  { kind: 'step', title: (list) => `other ${many(list.length, 'step')} with your hands` },
  {
    kind: 'setting',
    title: (list) => `${many(list.length, 'setting changes', 'settings change')} by themselves`,
  },
  { kind: 'decide', title: (list) => `${many(list.length, 'setting')} to decide` },
  { kind: 'idle', title: (list) => `${many(list.length, 'thing becomes', 'things become')} idle` },
  { kind: 'proof', title: (list) => `${many(list.length, 'proof is', 'proofs are')} void` },
  {
    kind: 'calibration',
    title: (list) => `${many(list.length, 'calibration falls', 'calibrations fall')} due`,
  },
  { kind: 'caution', title: (list) => many(list.length, 'caution') },
  { kind: 'slicer', title: (list) => `slicer ${many(list.length, 'line')} to change` },
];

/** The whole tail of a job as a picture: changes on the left, what follows from them on the right. */
export function Tail() {
  const { stored, tail } = useJob();
  const [chosen, setChosen] = useState<ConsequenceKind>('lead');
  const sought = useSought(`tail:${stored?.id ?? ''}`);
  const picture = useRef<HTMLDivElement>(null);
  if (!stored || !tail)
    return (
      <>
        <h2>Nothing follows</h2>
        <p className="soft">No job is open. Open one, and everything that follows from it is shown here.</p>
      </>
    );
  const { changes } = stored.job;
  const { consequences } = tail.ripple;
  const rows = ROWS.map((row) => ({
    ...row,
    list: consequences.filter((entry) => entry.kind === row.kind),
  })).filter(({ list }) => list.length > 0);
  const shown = rows.find((row) => row.kind === chosen) ?? rows[0];
  const found =
    shown?.list.filter(({ title, because, from, to }) => sought.finds(title, because, from, to)) ?? [];
  return (
    <>
      <h2>
        {changes.length} {many(changes.length, 'change')}, {consequences.length}{' '}
        {many(consequences.length, 'consequence')}
      </h2>
      <div className={css.picture} ref={picture}>
        <ol className={css.stones} aria-label="Changes">
          {changes.map((change, index) => (
            <Stone key={change.id} change={change} index={index} />
          ))}
        </ol>
        <Ribbons picture={picture} changes={changes} rows={rows} chosen={shown?.kind} />
        <ol className={css.rows} aria-label="What follows">
          {rows.map(({ kind, list, title }) => (
            <li key={kind} data-row={kind}>
              <button aria-pressed={shown?.kind === kind} onClick={() => setChosen(kind)}>
                <b className="figures">{list.length}</b>
                <span>
                  {title(list)}
                  <Tally list={list} changes={changes} />
                </span>
              </button>
            </li>
          ))}
        </ol>
      </div>
      {shown && (
        <div className="row">
          <SoughtIn
            label="Find in what follows"
            sought={sought}
            shown={found.length}
            of={shown.list.length}
          />
        </div>
      )}
      {shown && (
        <List
          key={shown.kind}
          list={found}
          changes={changes}
          title={`${shown.list.length} ${shown.title(shown.list)}`}
        />
      )}
    </>
  );
}

function Stone({ change, index }: { change: Change; index: number }) {
  const { facts } = useWorkbench();
  return (
    <li data-stone={change.id}>
      <Mark index={index} />
      <div>
        <strong>{CHANGE_TYPES[change.kind].title}</strong>
        <small>{changeInWords(change, facts)}</small>
      </div>
    </li>
  );
}

function Mark({ index, title }: { index: number; title?: string }) {
  return (
    <svg
      viewBox="-8 -8 16 16"
      className={css.mark}
      role={title ? 'img' : undefined}
      aria-label={title}
      aria-hidden={!title}
    >
      <path d={causeMark(index)} />
    </svg>
  );
}

const indexOf = (changes: Change[], id: string | undefined) =>
  Math.max(
    0,
    changes.findIndex((change) => change.id === id),
  );

/** One mark for each consequence, in the shape of the change it comes from first; hollow where several caused it. */
function Tally({ list, changes }: { list: Consequence[]; changes: Change[] }) {
  return (
    <svg
      className={css.tally}
      viewBox={`0 0 ${list.length * 12 + 2} 14`}
      style={{ width: list.length * 12 + 2 }}
      aria-hidden="true"
    >
      {list.map((entry, position) => (
        <path
          key={entry.id}
          data-shared={entry.causes.length > 1}
          data-attention={entry.attention !== undefined || entry.kind === 'caution'}
          transform={`translate(${position * 12 + 7} 7) scale(0.72)`}
          d={causeMark(indexOf(changes, entry.causes[0]))}
        />
      ))}
    </svg>
  );
}

interface Ribbon {
  key: string;
  d: string;
  width: number;
  lit: boolean;
}

/** Lines from every change to every row it feeds, as thick as what it feeds there. */
function Ribbons({
  picture,
  changes,
  rows,
  chosen,
}: {
  picture: React.RefObject<HTMLDivElement | null>;
  changes: Change[];
  rows: { kind: ConsequenceKind; list: Consequence[] }[];
  chosen: ConsequenceKind | undefined;
}) {
  const [ribbons, setRibbons] = useState<{ height: number; list: Ribbon[] }>({ height: 0, list: [] });
  const key = JSON.stringify([
    changes.map((change) => change.id),
    rows.map(({ kind, list }) => [kind, list.length]),
  ]);
  useEffect(() => {
    const draw = () => {
      const root = picture.current;
      if (!root) return;
      const top = root.getBoundingClientRect().top;
      const middle = (selector: string) => {
        const box = root.querySelector(selector)?.getBoundingClientRect();
        return box ? box.top + box.height / 2 - top : 0;
      };
      const list = changes.flatMap((change) =>
        rows.flatMap(({ kind, list: entries }) => {
          const count = entries.filter((entry) => entry.causes.includes(change.id)).length;
          if (count === 0) return [];
          const [from, to] = [middle(`[data-stone="${change.id}"]`), middle(`[data-row="${kind}"]`)];
          return [
            {
              key: `${change.id}-${kind}`,
              d: `M0 ${from}C45 ${from} 45 ${to} 90 ${to}`,
              width: 1 + Math.sqrt(count) * 1.6,
              lit: kind === chosen,
            },
          ];
        }),
      );
      setRibbons({ height: root.getBoundingClientRect().height, list });
    };
    draw();
    const watch = new ResizeObserver(draw);
    if (picture.current) watch.observe(picture.current);
    return () => watch.disconnect();
    // `key` stands for what changes and rows are drawn.
  }, [picture, key, chosen]); // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <svg
      className={css.ribbons}
      viewBox={`0 0 90 ${ribbons.height}`}
      style={{ height: ribbons.height }}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {ribbons.list.map(({ key: name, d, width, lit }) => (
        <path key={name} d={d} strokeWidth={width} data-lit={lit} />
      ))}
    </svg>
  );
}

function List({ list, changes, title }: { list: Consequence[]; changes: Change[]; title: string }) {
  return (
    <section className={css.list} aria-label={title} tabIndex={0}>
      <ul>
        {list.map((entry) => (
          <li key={entry.id}>
            <span className={css.causes}>
              {changes.map(
                (change, index) =>
                  entry.causes.includes(change.id) && (
                    <Mark key={change.id} index={index} title={`from: ${CHANGE_TYPES[change.kind].title}`} />
                  ),
              )}
            </span>
            <div>
              <strong>{entry.title}</strong>
              <small>
                {entry.because}
                {entry.attention && <em>{entry.attention.join('; ')}</em>}
              </small>
            </div>
            {(entry.from !== undefined || entry.to !== undefined) && (
              <span className="figures">
                {entry.from ?? 'nothing'} {entry.to !== undefined && `→ ${entry.to}`}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
