import { optionOf } from '@jolly/core/kit/optionOf';
import { Button, Select } from '@mantine/core';
import { type LineNumber, numbersIn, type NumberMeaning, teachLine } from '@jolly/core/report/teachLine';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { api } from '../../api/api';
import { tape } from '../../app/tape/tape';
import { useWorkbench } from '../../workbench/Workbench';
import { Refused } from '../../ui/Refused';
import css from './TeachLine.module.css';
import { askAnew } from '../../api/held';
import { useAct } from '../../ui/useAct';

const FIXED = 'fixed';
const NOT_TAKEN = 'not taken';
/** Units a report may give where the setting has another one. */
const OTHER_UNITS: Record<string, string[]> = {
  A: ['mA'],
  mm: ['in'],
  '°C': ['°F', 'K'],
  s: ['ms'],
  'mm/s': ['mm/min', 'in/s'],
};

/** Teaches one line of a report: which of its numbers is which setting. */
export function TeachLine({ text, onDone }: { text: string; onDone: () => void }) {
  const { kit } = useWorkbench();
  const client = useQueryClient();
  const { write } = tape;
  const numbers = useMemo(() => numbersIn(text), [text]);
  const [chosen, setChosen] = useState<Record<number, string>>({});
  const [units, setUnits] = useState<Record<number, string>>({});
  const { refused, act } = useAct();
  const choices = useMemo(
    () => [
      { value: FIXED, label: 'part of the text: it is always this' },
      { value: NOT_TAKEN, label: 'a number that is not taken' },
      ...kit.options
        .filter(({ kind }) => kind === 'number' || kind === 'flag')
        .map(({ key, label }) => ({ value: key, label: `${label} (${key})` })),
    ],
    [kit],
  );
  const unitOf = (index: number): string => {
    const option = optionOf(kit, chosen[index] ?? FIXED);
    return units[index] ?? (option && 'unit' in option ? option.unit : '');
  };
  const meanings = numbers.map((_, index): NumberMeaning => {
    const key = chosen[index] ?? FIXED;
    return key === FIXED || key === NOT_TAKEN ? key : { key, unit: unitOf(index) };
  });
  const line = teachLine(text, meanings);
  const keep = async () => {
    if (!line) return;
    await api.teach({ line });
    write('done', `Taught: ${line.text}`);
    await askAnew(client, 'catalogue');
    onDone();
  };
  return (
    <form
      className={css.teach}
      aria-label="Teach this line"
      onSubmit={(event) => {
        event.preventDefault();
        void act(keep);
      }}
    >
      <Marked text={text} numbers={numbers} meanings={meanings} />
      {numbers.map(({ text: number }, index) => (
        <NumberRow
          key={index}
          number={number}
          choices={choices}
          chosen={chosen[index] ?? FIXED}
          onChoose={(key) => setChosen({ ...chosen, [index]: key })}
          unit={unitOf(index)}
          isOwnUnit={units[index] !== undefined}
          onUnit={(unit) => setUnits({ ...units, [index]: unit })}
        />
      ))}
      <div className="row">
        <Button size="xs" type="submit" disabled={!line}>
          Read such lines from now on
        </Button>
        <Button size="xs" variant="default" onClick={onDone}>
          Leave it
        </Button>
      </div>
      <p className={css.told}>
        {line ? (
          <>
            Lines like <code>{line.text}</code> will be read; each # is a number.
          </>
        ) : (
          'Choose a setting for one number at least.'
        )}
      </p>
      <Refused why={refused} />
    </form>
  );
}

function Marked({
  text,
  numbers,
  meanings,
}: {
  text: string;
  numbers: LineNumber[];
  meanings: NumberMeaning[];
}) {
  let from = 0;
  return (
    <p className={css.line}>
      {numbers.map(({ at, text: number }, index) => {
        const before = text.slice(from, at);
        from = at + number.length;
        return (
          <span key={index}>
            {before}
            <mark data-taken={typeof meanings[index] === 'object'}>{number}</mark>
          </span>
        );
      })}
      {text.slice(from)}
    </p>
  );
}

/** One number of the line: which setting it is, and in which unit the report gives it. */
function NumberRow({
  number,
  choices,
  chosen,
  onChoose,
  unit,
  isOwnUnit,
  onUnit,
}: {
  number: string;
  choices: { value: string; label: string }[];
  chosen: string;
  onChoose: (key: string) => void;
  unit: string;
  /** The unit was chosen, and is not that of the setting. */
  isOwnUnit: boolean;
  onUnit: (unit: string) => void;
}) {
  const others = chosen === FIXED || chosen === NOT_TAKEN ? [] : (OTHER_UNITS[unit] ?? []);
  return (
    <div className="row">
      <Select
        size="xs"
        label={`${number} is`}
        data={choices}
        searchable
        maxDropdownHeight={220}
        value={chosen}
        allowDeselect={false}
        onChange={(value) => value && onChoose(value)}
      />
      {isOwnUnit && <span className={css.unit}>in {unit}</span>}
      {!isOwnUnit && others.length > 0 && (
        <span className={css.unit}>
          in {unit}; the report may say{' '}
          {others.map((other) => (
            <Button key={other} size="compact-xs" variant="default" onClick={() => onUnit(other)}>
              {other}
            </Button>
          ))}
        </span>
      )}
    </div>
  );
}
