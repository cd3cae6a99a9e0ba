import type { CarryRow } from '@jolly/core/settings/carryOver';
import { measuredEdit } from '@jolly/core/settings/measuredEdit';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { Button } from '@mantine/core';
import { useWorkbench } from '../../workbench/Workbench';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';

/** Settings of the old board that have the same verdict, each beside what it would be, with its proposal. */
export function CarryTable({ title, open, rows }: { title: string; open: boolean; rows: CarryRow[] }) {
  if (rows.length === 0) return null;
  return (
    <details className={css.group} open={open}>
      <summary>
        {title} <b className="figures">{rows.length}</b>
      </summary>
      <table className={css.carry}>
        <thead>
          <tr>
            <th scope="col">Setting</th>
            <th scope="col">Old board</th>
            <th scope="col">Would be</th>
            <th scope="col">Because</th>
            <th scope="col">Choice</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <CarryLine key={`${row.dump.line}${row.dump.key}${row.dump.tool ?? ''}`} row={row} />
          ))}
        </tbody>
      </table>
    </details>
  );
}

function CarryLine({ row }: { row: CarryRow }) {
  const { change, machine, facts } = useWorkbench();
  const { refused, act } = useAct();
  const { dump, option, would, had, proposed } = row;
  const own = option && machine.settings[option.key];
  const value = proposed ?? had;
  const taken = own !== undefined && own.value === value;
  const take = async () => {
    if (!option || value === undefined) return;
    const because = `carried over from the old board: ${row.because}`;
    await act(() =>
      change(`${option.label}: ${settingInWords(option, value)} carried over`, [
        measuredEdit(facts, option.key, value, because, 'carried'),
      ]),
    );
  };
  return (
    <tr>
      <th scope="row">
        {option?.label ?? dump.name ?? dump.key}
        {dump.tool !== undefined && ` (${dump.tool})`}
      </th>
      <td className="figures">
        {dump.value} {dump.unit}
      </td>
      <td className="figures">{would ? settingInWords(option, would.value) : '–'}</td>
      <td>
        {row.because}
        {refused && <span className="refused"> {refused}</span>}
      </td>
      <td>
        {taken ? (
          <span className="proven">taken</span>
        ) : proposed !== undefined ? (
          <Button size="compact-xs" onClick={() => void take()}>
            Take {settingInWords(option, proposed)}
          </Button>
        ) : row.verdict === 'measure again' || (row.verdict === 'leave' && had !== undefined) ? (
          <Button size="compact-xs" variant="default" onClick={() => void take()}>
            Take it all the same
          </Button>
        ) : null}
      </td>
    </tr>
  );
}
