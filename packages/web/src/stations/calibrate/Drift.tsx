import { Button } from '@mantine/core';
import { overrideEdit } from '@jolly/core/machine/edit';
import { type DumpValue, parseDump } from '@jolly/core/report/parseDump';
import { valueInWords } from '@jolly/session/inWords';
import { useState } from 'react';
import { useBench } from '../../bench/BenchProvider';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import css from './Calibrate.module.css';

/** Stored settings may differ this much by rounding. */
const ALIKE = 0.001;

interface Differing {
  key: string;
  board: number;
  file: number;
  line: string;
}

/** What the running board has against the machine file, decided value by value. */
export function Drift() {
  const { settings, change } = useWorkbench();
  const bench = useBench();
  const awake = bench.power.state === 'on' && bench.power.silent === undefined;
  const [asked, setAsked] = useState<{ differing: Differing[]; alike: number } | { problem: string }>();
  const ask = async () => {
    const { lines, problem } = await bench.ask('M503');
    if (problem !== undefined) return setAsked({ problem });
    const values = parseDump({ text: lines.join('\n') }).values.filter(({ tool }) => !tool);
    const differing = values.flatMap((value): Differing[] => {
      const file = settings.get(value.key)?.value;
      if (typeof file !== 'number' || Math.abs(value.value - file) <= ALIKE * Math.max(1, Math.abs(file)))
        return [];
      return [{ key: value.key, board: value.value, file, line: lineFor(value, lines, file) }];
    });
    setAsked({ differing, alike: values.length - differing.length });
  };
  const { refused, act } = useAct(ask);
  const take = ({ key, board }: Differing) =>
    act(() => change(`${key} as the board has it`, [overrideEdit(key, board, 'as the board keeps it')]));
  const give = ({ line, key }: Differing) =>
    act(async () => {
      const told = await bench.ask(line);
      const stored = told.problem === undefined ? await bench.ask('M500') : told;
      return stored.problem && `${key}: the board did not take it: ${stored.problem}`;
    });
  return (
    <section className={css.kept} aria-label="Board against file">
      <h3>Board against machine file</h3>
      <div className="row">
        <Button size="xs" variant="default" disabled={!awake} onClick={() => void ask()}>
          Ask the board
        </Button>
        {!awake && <p className="soft">The power is off: what the board has stored is not known just now.</p>}
      </div>
      {asked && 'problem' in asked && <p role="alert">{`The board does not tell: ${asked.problem}`}</p>}
      {asked && 'differing' in asked && asked.differing.length === 0 && (
        <p role="status">{`All ${asked.alike} values that the board told are as the machine file has them.`}</p>
      )}
      {asked && 'differing' in asked && asked.differing.length > 0 && (
        <table className="lines">
          <thead>
            <tr>
              <th scope="col">Setting</th>
              <th scope="col">Board</th>
              <th scope="col">Machine file</th>
              <th scope="col">Which is right?</th>
            </tr>
          </thead>
          <tbody>
            {asked.differing.map((one) => (
              <tr key={one.key}>
                <th scope="row">{one.key}</th>
                <td className="figures">{valueInWords(one.board)}</td>
                <td className="figures">{valueInWords(one.file)}</td>
                <td>
                  <Button size="compact-xs" variant="default" onClick={() => void take(one)}>
                    {"The board's: into the file"}
                  </Button>{' '}
                  <Button size="compact-xs" variant="default" onClick={() => void give(one)}>
                    {"The file's: to the board, and store"}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Refused why={refused} />
    </section>
  );
}

/** The board's own line with the value of the file in the place of its own: what it reports can be sent back. */
function lineFor({ line, key, axis }: DumpValue, lines: readonly string[], file: number): string {
  const told = (lines[line - 1] ?? '').replace(/^setting /, '');
  // The word of an axis has its letter; any other that of the last piece of its key.
  const letter = (axis ?? key.split('.').at(-1) ?? '').charAt(0).toLowerCase();
  return told
    .split(' ')
    .map((word, index) =>
      index > 0 && word.charAt(0).toLowerCase() === letter ? word.replace(/-?[\d.]+$/, String(file)) : word,
    )
    .join(' ');
}
