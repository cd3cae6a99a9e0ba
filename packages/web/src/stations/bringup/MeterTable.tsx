import { benchOhms, benchVolts } from '@jolly/bench';
import type { MeterRow } from '@jolly/core/firstPower/metering';
import type { RailRow } from '@jolly/core/firstPower/stages';
import { type MeterUnit, ohmsInWords, readMeter } from '@jolly/core/firstPower/meterReading';
import { Button, TextInput } from '@mantine/core';
import { useState } from 'react';
import { usePowered } from '../../bench/BenchProvider';
import { useWorkbench } from '../../workbench/Workbench';
import css from './MeterTable.module.css';
import { judged } from './powerNotes';
import type { useFirstPower } from './useFirstPower';

type Row = MeterRow | RailRow;

/** What to measure from which contact to which, what to expect, and what was read; judged as it is typed. */
export function MeterTable({
  rows,
  unit,
  power,
  onBench,
}: {
  rows: readonly Row[];
  unit: 'Ω' | 'V';
  power: ReturnType<typeof useFirstPower>;
  /** The bench's meter can measure it now. */
  onBench: boolean;
}) {
  const { facts } = useWorkbench();
  const hands = usePowered((now) => now.hands);
  const measure = (row: Row): string => {
    if ('source' in row) return `${benchVolts(facts, hands, row.source).toFixed(2)} V`;
    const { from, to, part, pressed } = row;
    return ohmsInWords(benchOhms(facts, hands, { from, to, ...(part && { part }), ...(pressed && { pressed }) }));
  };
  return (
    <table className={css.table}>
      <thead>
        <tr>
          <th>What</th>
          <th>From, to</th>
          <th>Expect</th>
          <th>Your meter says</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Reading key={row.id} row={row} unit={unit} power={power} measure={onBench ? () => measure(row) : undefined} />
        ))}
      </tbody>
    </table>
  );
} // prettier-ignore

function Reading({
  row,
  unit,
  power: { notes, note },
  measure,
}: {
  row: Row;
  unit: MeterUnit;
  power: ReturnType<typeof useFirstPower>;
  measure: (() => string) | undefined;
}) {
  const said = notes?.find(({ asked, expected }) => asked === row.id && expected === row.expect)?.said;
  const [typed, setTyped] = useState<string>();
  const [unread, setUnread] = useState(false);
  const verdict = judged(row, said);
  const keep = (text: string) => {
    setTyped(undefined);
    if (text.trim() === '') return void note(row.id, row.expect, null);
    const reading = readMeter(text, unit);
    setUnread(!reading);
    if (!reading) return setTyped(text);
    void note(row.id, row.expect, text.trim());
  };
  return (
    <tr data-fits={verdict?.fits}>
      <td>
        {row.what}
        <small>{row.how}</small>
      </td>
      <td className="figures" data-label="from, to:">
        {row.from}
        <br />
        {row.to}
      </td>
      <td data-label="expect">{row.expect}</td>
      <td>
        <div className={css.reading}>
          <TextInput
            size="xs"
            aria-label={`${row.what}, in ${unit}`}
            value={typed ?? said ?? ''}
            placeholder={unit === 'Ω' ? '14.4, 1.2 k or open' : '5.02'}
            error={unread && typed !== undefined ? `a number with its unit, such as ${unit === 'Ω' ? '14.4, 1.2 k, or open' : '5.02'}` : undefined}
            onChange={(event) => setTyped(event.currentTarget.value)}
            onBlur={() => typed !== undefined && keep(typed)}
            onKeyDown={(event) => event.key === 'Enter' && typed !== undefined && keep(typed)}
          />
          {measure && (
            <Button size="compact-xs" variant="default" aria-label={`Measure on the bench: ${row.what}`} onClick={() => keep(measure())}>
              bench
            </Button>
          )}
        </div>
        {verdict && <b>{verdict.fits ? 'fits' : 'does not fit'}</b>}
        {verdict && !verdict.fits && verdict.causes[0] && <small>{verdict.causes[0].cause}.</small>}
      </td>
    </tr>
  );
} // prettier-ignore
