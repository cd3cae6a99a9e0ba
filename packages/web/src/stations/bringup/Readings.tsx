import { Button, TextInput } from '@mantine/core';
import { parseReply, type Reply } from '@jolly/core';
import { useCallback, useEffect, useState } from 'react';
import type { BenchControl } from '../../bench/BenchProvider';
import css from './BringUpStation.module.css';

/** Asked when the board wakes up and after every test; together they fill the readings. */
const QUESTIONS = ['M115', 'M114', 'M105'];

/** What the board says of itself, all of it asked over the link, and a line to ask it anything. */
export function Readings({ ask, awake, idle }: { ask: BenchControl['ask']; awake: boolean; idle: boolean }) {
  const [replies, setReplies] = useState<Reply[]>([]);
  const [line, setLine] = useState('');
  const [heard, setHeard] = useState<string[]>([]);

  const read = useCallback(async () => {
    const answers = await Promise.all(QUESTIONS.map((question) => ask(question)));
    setReplies(answers.flatMap((answer) => answer.lines.map(parseReply)));
  }, [ask]);
  useEffect(() => {
    if (awake && idle) void read();
  }, [awake, idle, read]);
  useEffect(() => {
    if (awake) return;
    setReplies([]);
    setHeard([]);
  }, [awake]);

  const send = async () => {
    if (line.trim() === '') return;
    setLine('');
    const answer = await ask(line.trim());
    setHeard([`> ${line.trim()}`, ...answer.lines]);
  };
  return (
    <section className={css.readings} aria-label="What the board says">
      <h2>What the board says</h2>
      {replies.length > 0 ? (
        <dl aria-label="Identity">
          {rows(replies).map(([name, value]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      ) : (
        <p className={css.soft}>{awake ? 'Asking it.' : 'Nothing: it is off, or has nothing to run.'}</p>
      )}
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
        <Button type="submit" variant="default" disabled={!awake}>
          Send
        </Button>
      </form>
      {heard.length > 0 && (
        <pre className={css.heard} aria-live="polite">
          {heard.join('\n')}
        </pre>
      )}
    </section>
  );
}

/** The replies as names and values to read; what the board did not say is not there. */
function rows(replies: Reply[]): [string, string][] {
  const of = (word: string) => replies.find((reply) => reply.word === word)?.values;
  const who = of('lantern');
  const volume = of('volume');
  const at = of('at');
  const span = (value: string | undefined) => `${value?.replace('..', ' to ')} mm`;
  return [
    ...(who
      ? ([
          ['Name', who['name']],
          ['Build', who['build']],
          ['Target', who['target']],
        ] as [string, string][])
      : []),
    ...(volume
      ? ['x', 'y', 'z'].map((axis): [string, string] => [`Travel ${axis.toUpperCase()}`, span(volume[axis])])
      : []),
    ...(volume
      ? ['x', 'y'].map((axis): [string, string] => [
          `Plate ${axis.toUpperCase()}`,
          span(volume[`plate-${axis}`]),
        ])
      : []),
    ...(at
      ? ([
          ['Place', `${at['x']}  ${at['y']}  ${at['z']} mm`],
          ['Homed', at['homed']],
        ] as [string, string][])
      : []),
    ...replies
      .filter((reply) => reply.word === 'heat')
      .map(({ values }): [string, string] => [
        values['body'] === 'hotend' ? 'Hot end' : 'Bed',
        `${values['now']} °C, target ${values['target']} °C`,
      ]),
  ];
}
