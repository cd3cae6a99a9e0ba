import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { EXPLAINS_C, likelySensors } from '@jolly/core/heat/likelySensors';
import { whyOf } from '@jolly/core/text/whyOf';
import { Button, TextInput } from '@mantine/core';
import { useState } from 'react';
import { readNumber } from '../../ui/readNumber';
import css from './Describe.module.css';

const ROWS = [0, 1, 2];
const SHOWN = 3;
/** As if a fine converter had measured under a resistor of the sensor's own size. */
const METER = { bits: 24, pullupOhms: 10_000 } as const;

/** A sensor whose type nobody knows: its ohms at known temperatures tell which of the known ones it is like. */
export function SensorReadings({
  catalogue,
  label,
  onTake,
}: {
  catalogue: Catalogue;
  /** What is asked, so that two sensors on a page are told apart. */
  label: string;
  onTake: (id: string) => void;
}) {
  const [rows, setRows] = useState(ROWS.map(() => ({ ohms: '', c: '' })));
  const found = ranked(catalogue, rows);
  const set = (index: number, part: { ohms?: string; c?: string }) =>
    setRows((now) => now.map((row, at) => (at === index ? { ...row, ...part } : row)));
  return (
    <details className={css.helper}>
      <summary aria-label={`Which is it? By its ohms: ${label}`}>Which is it? By its ohms</summary>
      <p className="soft">
        Unplug it. Measure its ohms in a room you know the temperature of, and once more warm, for example in your hand or in
        warm water in a bag: a second, warm reading tells sensors apart that are alike cold.
      </p>
      {rows.map((row, index) => (
        <div className="row" key={index}>
          <TextInput size="sm" label={`Reading ${index + 1}, Ω`} inputMode="decimal" value={row.ohms} onChange={({ currentTarget: { value } }) => set(index, { ohms: value })} />
          <TextInput size="sm" label={`Reading ${index + 1}, °C`} inputMode="decimal" value={row.c} onChange={({ currentTarget: { value } }) => set(index, { c: value })} />
        </div>
      ))}
      <div role="status">
        {'why' in found ? (
          found.why && <p>{found.why}</p>
        ) : (
          <>
            <ul className={css.ranked}>
              {found.list.slice(0, SHOWN).map(({ id, name, errorC }) => (
                <li key={id}>
                  {name}: {errorC === null ? 'cannot read so' : `off by ${errorC.toFixed(1)} °C`}
                  <Button size="compact-xs" variant="default" aria-label={`It is ${name}`} onClick={() => onTake(id)}>
                    It is
                  </Button>
                </li>
              ))}
            </ul>
            {(found.list[0]?.errorC ?? Infinity) > EXPLAINS_C && (
              <p>None of these reads so. Measure again; if it stays, describe your sensor as a part of its own.</p>
            )}
            {found.tied.length > 0 && <p>{found.tied.join(' and ')} cannot be told apart yet: measure it warm.</p>}
          </>
        )}
      </div>
    </details>
  ); // prettier-ignore
}

interface Rank {
  id: string;
  name: string;
  errorC: number | null;
}

function ranked(
  { parts }: Catalogue,
  rows: readonly { ohms: string; c: string }[],
): { list: Rank[]; tied: string[] } | { why: string } {
  const readings = rows.flatMap(({ ohms, c }) => {
    const [r, t] = [readNumber(ohms, 'Ω'), readNumber(c, '°C')];
    return r === undefined || t === undefined ? [] : [{ raw: countOf(r), knownC: t }];
  });
  if (readings.length === 0) return { why: '' };
  const sensors = parts.flatMap((part) => (part.kind === 'thermistor' ? [part] : []));
  const nameOf = (id: string) => sensors.find((one) => one.id === id)?.name ?? id;
  try {
    const answer = likelySensors({ ...METER, readings, candidates: sensors.map(({ id, r25, beta }) => ({ id, r25, beta })) }); // prettier-ignore
    return {
      list: answer.ranked.map(({ id, errorC }) => ({ id, name: nameOf(id), errorC })),
      tied: answer.tied.map(nameOf),
    };
  } catch (error) {
    return { why: whyOf(error) };
  }
}

const countOf = (ohms: number): number =>
  Math.round(((2 ** METER.bits - 1) * ohms) / (ohms + METER.pullupOhms));
