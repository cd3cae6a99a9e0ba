import { Button } from '@mantine/core';
import { type CalibrationTool, type Found, withMinus } from '@jolly/core/calibration/calibrationTool';
import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import type { Machine } from '@jolly/core/machine/machine';
import { measuredEdit } from '@jolly/core/settings/measuredEdit';
import { isOn } from '@jolly/core/settings/understands';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQueryClient } from '@tanstack/react-query';
import { isAwake } from '@jolly/session/power';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { asDone, useJob } from '../../job/JobProvider';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useWorkbench, type Workbench } from '../../workbench/Workbench';
import css from './Calibrate.module.css';
import { useKeepMeasured } from './useKeepMeasured';
import { useMeasuring } from '../../bench/MeasuringProvider';
import { askAnew, askAnewOf } from '../../api/held';

/** What a tool came to, and where its values go: machine file, board and its store, each said; then it is on record. */
export function Outcome({
  tool,
  found,
  other,
}: {
  tool: CalibrationTool;
  found: Found;
  /** The fact that is another one since it was begun, as a clause. */
  other: string | undefined;
}) {
  const { settle } = useMeasuring();
  const takes = found.outcome !== 'ended' && other === undefined;
  return (
    <section className={css.outcome} data-outcome={found.outcome} aria-label="What it came to">
      <h3>{TITLES[found.outcome]}</h3>
      <p>{found.words}</p>
      {found.causes && (
        <ol>
          {found.causes.map(({ cause, look }) => (
            <li key={cause}>
              <b>{cause}.</b> {look}
            </li>
          ))}
        </ol>
      )}
      <details>
        <summary>What it rests on</summary>
        <ul className="figures">
          {found.evidence.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </details>
      {other !== undefined && <p role="status">Nothing of it is taken over: {other}. Measure it again.</p>}
      {takes ? (
        <TakeOver tool={tool} found={found} />
      ) : (
        <div className="row">
          <Button variant="default" onClick={settle}>
            Put it away
          </Button>
        </div>
      )}
    </section>
  );
}

const TITLES = { found: 'Measured', poor: 'Not good enough', ended: 'Ended early' } as const;

/** Where the values of a measurement go, and what to do with them. */
function TakeOver({ tool, found }: { tool: CalibrationTool; found: Found }) {
  const workbench = useWorkbench();
  const { settle } = useMeasuring();
  const write = useWriting(tool, found);
  const shown = useAct();
  const { machine, settings } = workbench;
  const awake = usePowered(isAwake);
  const edits = editsOf(workbench, found);
  const { remedy, lines } = found;
  const made = remedy !== undefined && isMade(machine, remedy.edits);
  const stores = awake && lines.length > 0 && isOn(settings, 'store.kept');
  const sets = found.outcome === 'found' && (edits.length > 0 || lines.length > 0);
  return (
    <>
      {sets && (
        <p className="soft">
          {edits.length > 0 && `The machine file of ${machine.name} takes ${valuesInWords(found)}. `}
          {lines.length > 0 && BOARD_TAKES[awake ? (stores ? 'stores' : 'forgets') : 'off']}
        </p>
      )}
      {made && (
        <p role="status">“{remedy.label}” is in the machine file. Build and flash it, then measure again.</p>
      )}
      <div className="row">
        {remedy && !made && (
          <Button onClick={() => void shown.act(() => workbench.showPreview(remedy.label, remedy.edits))}>
            {remedy.label}
          </Button>
        )}
        {sets && (
          <Button loading={write.busy} onClick={() => void write.run(edits, true)}>
            {edits.length > 0 ? (stores ? 'Apply and store' : 'Apply') : 'Tell the board'}
          </Button>
        )}
        <Button variant="default" loading={write.busy} onClick={() => void write.run([], false)}>
          {sets ? 'Only write it down' : 'Write it down'}
        </Button>
        <Button variant="subtle" onClick={settle}>
          Put it away
        </Button>
      </div>
      <Refused why={write.refused ?? shown.refused} />
    </>
  );
}

const BOARD_TAKES = {
  stores: 'The board takes it at once, and stores it over power-offs.',
  forgets: 'The board takes it at once, and forgets it at power-off: this image keeps no settings.',
  off: 'The power is off: the board does not take it now.',
} as const;

/** Whether the machine file has the values that are offered, whatever its words for where they are from. */
function isMade(machine: Machine, offered: Edit[]): boolean {
  const { settings } = applyEdits(machine, offered);
  return offered.every(({ path: [, key] }) => {
    const name = String(key);
    return settings[name]?.value === machine.settings[name]?.value;
  });
}

/** Edits of the machine file, with what each value was measured with. */
const editsOf = ({ facts }: Workbench, { edits, values }: Found): Edit[] => [
  ...edits,
  ...values.map(({ key, value, because }) => measuredEdit(facts, key, value, because)),
];

function valuesInWords({ values, edits }: Found): string {
  const named = values.map(({ key, value }) => `${key} = ${value}`);
  const rest = edits.map(({ path }) =>
    path[0] === 'bed_map' ? 'the map' : path.includes('screws') ? 'the screws' : path.join('.'),
  );
  return withMinus([...named, ...rest].join(', ') || 'nothing');
}

/** Applies what was found, tells the board, ticks it off in the job, and writes it down; says what did not work. */
function useWriting(tool: CalibrationTool, found: Found) {
  const workbench = useWorkbench();
  const bench = useBench();
  const job = useJob();
  const client = useQueryClient();
  const { settle } = useMeasuring();
  const { busy, refused, act } = useAct();
  const { id } = workbench.machine;
  const keep = useKeepMeasured();

  async function tellBoard(): Promise<{ board: boolean; store: boolean; problem?: string }> {
    if (!isAwake(bench.powered.now()) || found.lines.length === 0) return { board: false, store: false };
    for (const line of found.lines) {
      const answer = await bench.ask(line);
      if (answer.problem !== undefined) return { board: false, store: false, problem: `${line}: ${answer.problem}` };
    }
    if (!isOn(workbench.settings, 'store.kept')) return { board: true, store: false };
    const stored = await bench.ask('M500');
    return stored.problem === undefined
      ? { board: true, store: true }
      : { board: true, store: false, problem: `M500: ${stored.problem}` };
  } // prettier-ignore

  const run = (edits: Edit[], apply: boolean) =>
    act(async () => {
      const problem = edits.length > 0 ? await workbench.change(`${tool.title}: measured`, edits) : undefined;
      if (problem !== undefined) return `The machine file did not take it: ${problem}`;
      const told = apply ? await tellBoard() : { board: false, store: false, problem: undefined };
      const kept = await keep(recordOf(tool, found, { ...told, file: edits.length > 0 }), tool.title).catch(
        whyOf,
      );
      if (typeof kept === 'string') return `Nobody confirmed that it was written down. ${kept}`;
      for (const entry of job.already('calibration'))
        if (entry.subject === tool.id && found.outcome === 'found') await job.tick(asDone(entry), true);
      await askAnewOf(client, id, 'calibrations', 'entries');
      void askAnew(client, 'machines');
      if (told.problem !== undefined)
        return `It is in the ${edits.length > 0 ? 'machine file and the ' : ''}logbook; the board did not take it: ${told.problem}`;
      settle();
      return undefined;
    });
  return { run, busy, refused };
}

const recordOf = (
  { id }: CalibrationTool,
  { outcome, words, evidence, figures, map }: Found,
  { file, board, store }: { file: boolean; board: boolean; store: boolean },
) => ({
  calibration: id,
  outcome: outcome === 'poor' ? ('poor' as const) : ('found' as const),
  words: words.slice(0, 1000),
  evidence: evidence.slice(0, 40).map((line) => line.slice(0, 600)),
  // What adding in binary has left behind the last digit is no part of it.
  figures: figures.map((figure) => ({ ...figure, value: Number(figure.value.toPrecision(12)) })),
  wentTo: { file, board, store },
  ...(map && { map }),
});
