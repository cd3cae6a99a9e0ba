import { Button } from '@mantine/core';
import { overrideEdit } from '@jolly/core/machine/edit';
import { optionOf } from '@jolly/core/kit/optionOf';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { useEffect, useMemo, useState } from 'react';
import { isAwake } from '@jolly/session/power';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { Refused } from '../../ui/Refused';
import { SettingName } from '../../ui/SettingName';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import { type AgainstFile, againstFile, type Differing } from './againstFile';
import css from './Calibrate.module.css';

/** What the running board has against the machine file, decided value by value. */
export function Drift() {
  const { settings, kit, change } = useWorkbench();
  const bench = useBench();
  const awake = usePowered(isAwake);
  const [told, setTold] = useState<{ lines: readonly string[] } | { problem: string }>();
  // What it told before the power went is not what it has now.
  useEffect(() => {
    if (!awake) setTold(undefined);
  }, [awake]);
  const against = useMemo(
    () => (told && 'lines' in told ? againstFile(told.lines, { settings, kit }) : undefined),
    [told, settings, kit],
  );
  const ask = async () => {
    const { lines, problem } = await bench.ask('M503');
    setTold(problem === undefined ? { lines } : { problem });
  };
  const { refused, act } = useAct(ask);
  const take = ({ key, board }: Differing) =>
    act(() =>
      change(
        `${optionOf(kit, key)?.label ?? key}: ${settingInWords(optionOf(kit, key), board)} as the board has it`,
        [overrideEdit(key, board, 'as the board keeps it')],
      ),
    );
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
      {told && 'problem' in told && <p role="alert">{`The board does not tell: ${told.problem}`}</p>}
      {against && <p role="status">{inWords(against)}</p>}
      {against && against.differing.length > 0 && (
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
            {against.differing.map((one) => (
              <tr key={one.key}>
                <th scope="row">
                  <SettingName option={optionOf(kit, one.key)} settingKey={one.key} />
                </th>
                <td className="figures">{settingInWords(optionOf(kit, one.key), one.board)}</td>
                <td className="figures">{settingInWords(optionOf(kit, one.key), one.file)}</td>
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

/** How many values are the same, which differ is in the table, and what could not be held against anything. */
function inWords({ alike, differing, beside }: AgainstFile): string {
  if (alike + differing.length === 0) return 'The board told no value that the machine file has.';
  const same =
    differing.length === 0
      ? `All ${alike} values that it told and the machine file has are the same.`
      : `${differing.length} of ${alike + differing.length} values differ.`;
  return beside.length === 0 ? same : `${same} The file has none for ${beside.join(', ')}.`;
}
