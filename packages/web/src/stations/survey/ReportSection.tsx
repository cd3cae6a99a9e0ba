import { surveyTick } from '@jolly/core/ripple/surveyTick';
import { boardInWords, sameBoard } from '@jolly/core/machine/same';
import { LONGEST_DUMP } from '@jolly/core/text/limits';
import { Button, FileButton, Textarea } from '@mantine/core';
import type { CarryRow } from '@jolly/core/settings/carryOver';
import { skipToken, useQuery } from '@tanstack/react-query';
import { keptText } from '../../api/api';
import { isAwake } from '@jolly/session/power';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { keptReport } from '../../job/keptReport';
import { useJob } from '../../job/JobProvider';
import type { ReportRead } from '../../workbench/coreWorker';
import { useDraft } from '../../ui/useDraft';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import { useDropped } from '../../app/drop/dropped';
import { DropPlace } from './DropPlace';
import { FromDrawer } from './FromDrawer';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';
import { CarryTable } from './CarryTable';
import { UnreadLines } from './UnreadLines';
import { useKeep } from './useKeep';

const GROUPS: { verdict: CarryRow['verdict'][]; title: string; open: boolean }[] = [
  { verdict: ['carry', 'rescale'], title: 'Measured; they carry over', open: true },
  { verdict: ['measure again'], title: 'Measured; to be measured again', open: true },
  { verdict: ['leave'], title: 'Decided by facts or kit', open: true },
  { verdict: ['same'], title: 'The same as it would be', open: false },
  { verdict: ['no option'], title: 'No option in this kit', open: false },
];

/** The settings the old board has: read from a report, laid beside what would be derived, each with its proposal. */
export function ReportSection() {
  const { machine, facts } = useWorkbench();
  const { before } = useJob();
  const isOld = sameBoard(machine, before);
  const bench = useBench();
  // A board that is silent answers never.
  const awake = usePowered(isAwake);
  const { refused, act } = useAct();
  const { kept, read } = useReport();
  const keepDump = useKeepDump();
  const keep = (...dump: Parameters<typeof keepDump>) => act(() => keepDump(...dump));
  useDropped('report', (file) => void keep(file.name, file));
  const fromLink = () =>
    act(async () => {
      const answer = await bench.ask('M503');
      if (answer.problem) return `the board did not answer with its settings: ${answer.problem}`;
      return keepDump(`${machine.id}-from-link.txt`, new Blob([answer.lines.join('\n')]), 'link');
    });
  return (
    <>
      <h2>The settings the old board has</h2>
      <p className="soft">
        Paste or drop the answer to M503, or read it over the link. It is kept with the way back.
      </p>
      <div className="row">
        <FileButton
          onChange={(file) => file && void keep(file.name, file)}
          inputProps={{ 'aria-label': 'Settings report' }}
        >
          {(props) => (
            <Button size="xs" {...props}>
              Open a report
            </Button>
          )}
        </FileButton>
        <FromDrawer ending={/\.txt$/} onFile={(name, bytes) => void keep(name, bytes)} />
        <Button size="xs" variant="default" disabled={!awake || !isOld} onClick={() => void fromLink()}>
          Read it over the link
        </Button>
      </div>
      {!isOld && (
        <p className="soft">
          Over the link answers {boardInWords(facts)}, which is not the old board: its settings are none that
          were tuned there.
        </p>
      )}
      {!kept && <Paste keep={keep} />}
      {kept && (
        <p className="soft">
          Read here: {kept.name}, kept {whenOf(kept.at)}. Another one takes its place.
        </p>
      )}
      <Refused why={refused} />
      {read.data && 'refused' in read.data && <p className="refused">{read.data.refused}</p>}
      {read.data && 'rows' in read.data && <ReadReport report={read.data} />}
    </>
  );
}

/** The report that is kept of the old board, and what could be read in it. */
function useReport() {
  const { machine, core, facts } = useWorkbench();
  const { before, wayBack, tail } = useJob();
  const taught = facts.catalogue.dialects.find(({ id }) => id === 'own');
  const kept = keptReport(wayBack, before);
  const report = useQuery({
    queryKey: ['report', machine.id, kept?.id],
    queryFn: kept ? () => keptText(machine.id, kept.id) : skipToken,
    meta: { what: 'the kept settings report' },
    staleTime: Infinity,
  });
  const events = (tail ? [...tail.ripple.touched.keys()] : []).filter(
    (key) => !key.includes('.') && ['hotend', 'nozzle', 'board'].includes(key),
  );
  const text = report.data;
  const read = useQuery<ReportRead>({
    queryKey: ['reportRead', kept?.id, report.data, machine, before, taught],
    queryFn:
      text === undefined
        ? skipToken
        : async () => core.report(text, before, tail?.ripple.after ?? machine, events),
    meta: { what: 'what the settings report holds' },
    placeholderData: (old) => old,
  });
  return { kept, read };
}

function Paste({ keep }: { keep: (name: string, bytes: Blob) => Promise<boolean> }) {
  const { machine } = useWorkbench();
  const [pasted, setPasted] = useDraft(`report:${machine.id}`, '');
  return (
    <DropPlace onFile={(file) => void keep(file.name, file)}>
      <Textarea
        label="Or paste it here"
        minRows={5}
        autosize
        maxRows={9}
        className={css.file}
        value={pasted}
        onChange={(event) => setPasted(event.currentTarget.value)}
      />
      <Button
        size="xs"
        mt={6}
        disabled={pasted.trim() === ''}
        onClick={() => void keep('pasted.txt', new Blob([pasted]))}
      >
        Read it
      </Button>
    </DropPlace>
  );
}

/** A report that could be read: whose it hardly is, what it holds by verdict, and what nobody understood. */
function ReadReport({ report }: { report: Extract<ReportRead, { rows: unknown }> }) {
  const { before } = useJob();
  return (
    <>
      {report.foreign.unlikely && (
        <div className={css.advice} data-leave role="alert">
          <strong>This is hardly a report of {before.name}</strong>
          <ul>
            {report.foreign.evidence.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </div>
      )}
      {GROUPS.map((group) => (
        <CarryTable
          key={group.title}
          {...group}
          rows={report.rows.filter((row) => group.verdict.includes(row.verdict))}
        />
      ))}
      <UnreadLines unread={report.unread} />
      <AllDecided />
    </>
  );
}

const DECIDED = {
  kind: 'survey',
  subject: 'report',
  title: 'Every measured value has its decision',
} as const;

function AllDecided() {
  const { stored, tick, isDone } = useJob();
  const { refused, act } = useAct();
  const id = stored && surveyTick('report', stored.job.changes);
  if (id !== undefined && isDone(id)) return <p className="proven">{DECIDED.title}.</p>;
  return (
    id !== undefined && (
      <>
        <Button size="xs" onClick={() => void act(() => tick({ id, ...DECIDED }, true))}>
          All of these are decided
        </Button>
        <Refused why={refused} />
      </>
    )
  );
}

/** Keeps a settings report; why it was refused comes back in words, and nothing is kept then. */
function useKeepDump() {
  const keepThing = useKeep();
  return async (name: string, bytes: Blob, source: 'file' | 'link' = 'file'): Promise<string | undefined> =>
    bytes.size > LONGEST_DUMP
      ? `${name} has ${bytes.size} bytes; a settings report has a few thousand, and at most ${LONGEST_DUMP} are read`
      : keepThing('dump', name, bytes, source);
}
