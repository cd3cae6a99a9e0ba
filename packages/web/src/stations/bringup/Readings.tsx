import { bodyCalled } from '@jolly/core/machine/bodyCalled';
import { Button, TextInput } from '@mantine/core';
import {
  ageS,
  bodyInWords,
  placeInWords,
  type BoardReading,
  type BoardReadings,
} from '@jolly/core/bringup/boardReading';
import { parseReply, type Reply } from '@jolly/core/bringup/reply';
import { useEffect, useState } from 'react';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { useNow } from '../../ui/useNow';
import css from './BringUpStation.module.css';

/** What the board says of itself, all of it heard over the link, each with its age, and a line to ask it anything. */
export function Readings({
  awake,
  busy,
}: {
  awake: boolean;
  /** A test is under way: the line is taken. */
  busy: boolean;
}) {
  const { ask } = useBench();
  const readings = usePowered((now) => now.readings);
  const mute = usePowered((now) => now.mute === 'from the start');
  const [who, setWho] = useState<Reply[]>([]);
  const now = useNow(awake);

  useEffect(() => {
    setWho([]);
    if (!awake) return;
    let current = true;
    void ask('M115', true).then(({ lines }) => current && setWho(lines.map(parseReply)));
    return () => {
      current = false;
    };
  }, [awake, ask]);

  const state = readings['state']?.values;
  const rows = [...identityRows(who), ...readingRows(readings)];
  return (
    <section className={css.readings} aria-label="What the board says">
      <h2>What the board says</h2>
      {state?.['doing'] === 'stopped' && (
        <p className={css.stopped} role="alert">
          Stopped: {state['why']}. Heat is off, and nothing moves until you wake it; then home all axes.
          <Button size="compact-sm" variant="default" onClick={() => void ask('wake')}>
            Wake it
          </Button>
        </p>
      )}
      {awake && rows.length > 0 ? (
        <dl aria-label="Identity">
          {rows.map(({ name, value, heard: of }) => {
            const old = of && ageS(of, now);
            return (
              <div key={name} data-old={old !== undefined}>
                <dt>{name}</dt>
                <dd>
                  {value}
                  {old !== undefined && <small> not heard for {old} s</small>}
                </dd>
              </div>
            );
          })}
        </dl>
      ) : (
        <p className={mute ? 'refused' : 'soft'} role={mute ? 'alert' : undefined}>
          {awake ? (mute ? MUTE : 'Asking it.') : 'Nothing: it is off, or silent.'}
        </p>
      )}
      <AskBoard key={String(awake)} awake={awake} busy={busy} />
    </section>
  );
}

/** A line to ask the board anything, and what it answered. */
function AskBoard({ awake, busy }: { awake: boolean; busy: boolean }) {
  const { ask } = useBench();
  const [line, setLine] = useState('');
  const [heard, setHeard] = useState<string[]>([]);
  const send = async () => {
    if (line.trim() === '') return;
    setLine('');
    const answer = await ask(line.trim());
    setHeard([`> ${line.trim()}`, ...answer.lines]);
  };
  return (
    <>
      <form
        className={css.ask}
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <TextInput
          aria-label="Ask the board"
          placeholder="Ask it, in G-code: M105"
          value={line}
          disabled={!awake}
          onChange={(event) => setLine(event.currentTarget.value)}
        />
        <Button type="submit" variant="default" disabled={!awake || busy}>
          Send
        </Button>
      </form>
      {heard.length > 0 && (
        <pre className={css.heard} aria-live="polite">
          {heard.join('\n')}
        </pre>
      )}
    </>
  );
}

const MUTE =
  'It does not answer: nothing that can be read has come since the power came on. Test “The right image runs”: it tells what may be behind that.';

interface Row {
  name: string;
  value: string;
  /** Missing for what does not change while the board runs. */
  heard?: BoardReading;
}

/** Who runs, as names and values; what the board did not say is not there. */
function identityRows(replies: Reply[]): Row[] {
  const of = (word: string) => replies.find((reply) => reply.word === word)?.values;
  const who = of('lantern');
  const volume = of('volume');
  const span = (value: string | undefined) => value?.replace('..', ' to ') ?? '?';
  const spans = (axes: string[], lead: string) =>
    `${axes.map((axis) => `${axis.toUpperCase()}\u00a0${span(volume?.[`${lead}${axis}`])}`).join(', ')} mm`;
  return [
    ...(who
      ? [
          { name: 'Name', value: who['name'] ?? '' },
          { name: 'Build', value: `${who['build'] ?? ''} for ${who['target'] ?? ''}` },
        ]
      : []),
    ...(volume
      ? [
          { name: 'Travel', value: spans(['x', 'y', 'z'], '') },
          { name: 'Plate', value: spans(['x', 'y'], 'plate-') },
        ]
      : []),
  ];
}

/** A print whose place cannot be noted is not gone on with. */
const UNTAKEN =
  'cannot be noted: if the power goes, this print is lost. The card is locked or full, or the store too small.';
const listed = (values: BoardReading['values']) =>
  Object.entries(values)
    .map(([name, value]) => `${name} ${value}`)
    .join('  ');
/** Until it stands aside it ends what is under way, moves or warming, and afterwards it moves back. */
const PAUSED_WORDS: Record<string, string> = {
  soon: 'soon, after what is under way',
  ending: 'not any more, it moves back',
};
const MAP_WORDS: Record<string, string> = {
  'in-use': 'in use',
  kept: 'kept, not in use',
  none: 'none taken',
};

/** What changes by itself, with when it was heard. */
function readingRows(readings: BoardReadings): Row[] {
  const row = (key: string, name: string, value: (values: BoardReading['values']) => string): Row[] => {
    const heard = readings[key];
    return heard ? [{ name, value: value(heard.values), heard }] : [];
  };
  return [
    ...row('state', 'State', ({ doing = '' }) => doing),
    ...row('at', 'Place', placeInWords),
    ...row('at', 'Homed', ({ homed = '' }) => homed.replaceAll('-', '').toUpperCase() || 'no axis'),
    ...Object.keys(readings)
      .filter((key) => key.startsWith('heat '))
      .flatMap((key) =>
        row(key, bodyInWords(key), ({ now, target }) =>
          Number(target) > 0 ? `${now} °C, target ${target} °C` : `${now} °C, off`,
        ),
      ),
    ...row('switch', 'Inputs', listed),
    ...row('fan', 'Fans', (values) =>
      Object.entries(values)
        .map(([name, share]) => `${bodyCalled(name)} ${Math.round(Number(share) * 100)} %`)
        .join('  '),
    ),
    ...row('servo', 'Servos', (values) =>
      Object.entries(values)
        .map(([name, us]) => `${name} ${us === '0' ? 'not told' : `${us} µs`}`)
        .join('  '),
    ),
    ...row('filament', 'Filament', ({ state = '' }) => state),
    ...row(
      'map',
      'Bed map',
      ({ state = '', columns, rows }) => `${MAP_WORDS[state] ?? state}, ${columns} × ${rows}`,
    ),
    ...row('print', 'Paused', ({ paused = '', why }) =>
      [PAUSED_WORDS[paused] ?? paused, ...(why ? [why] : [])].join(': '),
    ),
    ...row('card', 'Card', ({ state = '', file, at, of }) =>
      file ? `${file}, ${Math.round((100 * Number(at)) / Number(of))} %` : state,
    ),
    ...row('resume', 'Kept print', ({ state, file, z }) =>
      state === 'untaken' ? UNTAKEN : z === undefined ? 'none' : `${file} at Z ${z} mm`,
    ),
    ...Object.keys(readings)
      .filter((key) => key.startsWith('driver '))
      .flatMap((key) =>
        row(key, `Driver ${key.replace('driver ', '').toUpperCase()}`, ({ state, amps, degrees }) =>
          amps === undefined ? `${state}` : `${state}, ${amps} A, ${degrees} °C`,
        ),
      ),
  ];
}
