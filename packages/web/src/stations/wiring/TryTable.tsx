import type { ExchangeCase, PortVerdict, Try } from '@jolly/core/solver/exchangeTest';
import { Button, NativeSelect } from '@mantine/core';
import { useState } from 'react';
import css from './Wiring.module.css';

/** The lead was not chosen yet; which one it was decides what the try tells. */
const NOT_CHOSEN = 'which lead?';

/** What was tried, sensor by sensor and port by port, and the next try. */
export function TryTable({
  test,
  tries,
  onTries,
  verdict,
}: {
  test: ExchangeCase;
  tries: Try[];
  onTries: (tries: Try[]) => void;
  verdict: PortVerdict | undefined;
}) {
  return (
    <table className={css.pins}>
      <thead>
        <tr>
          <th>Sensor</th>
          <th>Port</th>
          <th>Lead</th>
          <th>It reads</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>{test.suspect.sensor}</td>
          <td className="figures">{test.suspect.port}</td>
          <td>its own</td>
          <td>no, as found</td>
        </tr>
        {tries.map((one, index) => (
          <tr key={index}>
            <td>{one.sensor}</td>
            <td className="figures">{one.port}</td>
            <td>{one.lead ?? 'its own'}</td>
            <td>
              {one.reads ? 'yes' : 'no'}{' '}
              <Button
                size="compact-xs"
                variant="subtle"
                aria-label={`Take try ${index + 1} back`}
                onClick={() => onTries(tries.filter((_, at) => at !== index))}
              >
                take back
              </Button>
            </td>
          </tr>
        ))}
        <NextTry test={test} next={verdict?.next} onTry={(one) => onTries([...tries, one])} />
      </tbody>
    </table>
  );
}

/** The try that is proposed, or another; whether it read is noted. */
function NextTry({
  test,
  next,
  onTry,
}: {
  test: ExchangeCase;
  next: PortVerdict['next'];
  onTry: (one: Try) => void;
}) {
  const [own, setOwn] = useState<{ sensor: string; port: string; lead: string }>();
  const now = own ?? {
    sensor: next?.sensor ?? test.suspect.sensor,
    port: next?.port ?? test.suspect.port,
    // A proposal with another lead is not taken for done: whoever notes the try says which lead it was.
    lead: next?.lead ? NOT_CHOSEN : '',
  };
  const note = (reads: boolean) => {
    onTry({ sensor: now.sensor, port: now.port, ...(now.lead && { lead: now.lead }), reads });
    setOwn(undefined);
  };
  return (
    <tr data-next="">
      <td>
        <NativeSelect
          size="xs"
          aria-label="Sensor to try"
          value={now.sensor}
          data={test.sensors.map(({ id }) => id)}
          onChange={(event) => setOwn({ ...now, lead: '', sensor: event.currentTarget.value })}
        />
      </td>
      <td>
        <NativeSelect
          size="xs"
          aria-label="Port to try"
          value={now.port}
          data={test.ports.map(({ id }) => id)}
          onChange={(event) => setOwn({ ...now, lead: '', port: event.currentTarget.value })}
        />
      </td>
      <td>
        <NativeSelect
          size="xs"
          aria-label="Lead to try"
          value={now.lead}
          data={[
            ...(now.lead === NOT_CHOSEN ? [NOT_CHOSEN] : []),
            { value: '', label: 'its own' },
            { value: 'another lead', label: 'another lead' },
          ]}
          onChange={(event) => setOwn({ ...now, lead: event.currentTarget.value })}
        />
      </td>
      <td>
        <Button size="xs" variant="default" disabled={now.lead === NOT_CHOSEN} onClick={() => note(true)}>
          It reads
        </Button>{' '}
        <Button size="xs" variant="default" disabled={now.lead === NOT_CHOSEN} onClick={() => note(false)}>
          It does not
        </Button>
      </td>
    </tr>
  );
}
