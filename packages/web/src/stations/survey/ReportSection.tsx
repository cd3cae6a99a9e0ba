import { LONGEST_DUMP } from '@jolly/core/text/limits';
import { Button, FileButton, Textarea } from '@mantine/core';
import type { CarryRow } from '@jolly/core/settings/carryOver';
import type { Dump } from '@jolly/core/report/parseDump';
import { measuredEdit } from '@jolly/core/settings/measuredEdit';
import { numbersIn } from '@jolly/core/report/teachLine';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { keptText } from '../../api/api';
import { useBench } from '../../bench/BenchProvider';
import { useJob } from '../../job/JobProvider';
import type { ReportRead } from '../../workbench/coreWorker';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import { DropPlace } from './DropPlace';
import { FromDrawer } from './FromDrawer';
import { valueInWords } from '@jolly/session/inWords';
import { Refused } from '../../ui/Refused';
import css from './SurveyStation.module.css';
import { TeachLine } from './TeachLine';
import { useKeep } from './useKeep';

const FIRST_UNREAD = 200;
const GROUPS: { verdict: CarryRow['verdict'][]; title: string; open: boolean }[] = [
  { verdict: ['carry', 'rescale'], title: 'Measured; they carry over', open: true },
  { verdict: ['measure again'], title: 'Measured; to be measured again', open: true },
  { verdict: ['leave'], title: 'Decided by facts or kit', open: true },
  { verdict: ['same'], title: 'The same as it would be', open: false },
  { verdict: ['no option'], title: 'No option in this kit', open: false },
];

/** The settings the old board has: read from a report, laid beside what would be derived, each with its proposal. */
export function ReportSection() {
  const { machine, core, facts } = useWorkbench();
  const taught = facts.catalogue.dialects.find(({ id }) => id === 'own');
  const { before, wayBack, tail, stored, tick, isDone } = useJob();
  const bench = useBench();
  const [pasted, setPasted] = useDraft(`report:${machine.id}`, '');
  const [refused, setRefused] = useState<string>();
  const kept = wayBack?.kept.find((entry) => entry.kind === 'dump');
  const report = useQuery({
    queryKey: ['report', machine.id, kept?.id],
    queryFn: kept ? () => keptText(machine.id, kept.id) : skipToken,
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
    placeholderData: (old) => old,
  });
  const keep = useKeepDump(setRefused);
  const fromLink = async () => {
    setRefused(undefined);
    const answer = await bench.ask('M503');
    if (answer.problem) return setRefused(`the board did not answer with its settings: ${answer.problem}`);
    await keep(`${machine.id}-from-link.txt`, new Blob([answer.lines.join('\n')]), 'link');
  };
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
        <Button
          size="xs"
          variant="default"
          disabled={bench.power.state !== 'on'}
          onClick={() => void fromLink()}
        >
          Read it over the link
        </Button>
      </div>
      {!kept && (
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
      )}
      <Refused why={refused} />
      {read.data && 'refused' in read.data && <p className="refused">{read.data.refused}</p>}
      {read.data && 'rows' in read.data && (
        <>
          {read.data.foreign.unlikely && (
            <div className={css.advice} data-leave role="alert">
              <strong>This is hardly a report of {before.name}</strong>
              <ul>
                {read.data.foreign.evidence.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            </div>
          )}
          {GROUPS.map((group) => (
            <Group
              key={group.title}
              {...group}
              rows={
                read.data && 'rows' in read.data
                  ? read.data.rows.filter((row) => group.verdict.includes(row.verdict))
                  : []
              }
            />
          ))}
          {read.data.unread.length > 0 && (
            <details className={css.group}>
              <summary>
                {read.data.unread.length === 1 ? '1 line' : `${read.data.unread.length} lines`} not understood
              </summary>
              <p className="soft">
                You can teach a line: say which of its numbers is which setting, and lines like it are read
                from then on.
              </p>
              <ol className={css.unread}>
                {read.data.unread.slice(0, FIRST_UNREAD).map((line) => (
                  <UnreadLine key={line.line} {...line} />
                ))}
              </ol>
              {read.data.unread.length > FIRST_UNREAD && (
                <p className="soft">
                  and {read.data.unread.length - FIRST_UNREAD} more; the kept report holds them all
                </p>
              )}
            </details>
          )}
          {stored && !isDone('survey:report') && (
            <Button
              size="xs"
              onClick={() =>
                void tick(
                  {
                    id: 'survey:report',
                    kind: 'survey',
                    subject: 'report',
                    title: 'Every measured value has its decision',
                  },
                  true,
                )
              }
            >
              All of these are decided
            </Button>
          )}
          {isDone('survey:report') && <p className="proven">Every measured value has its decision.</p>}
        </>
      )}
    </>
  );
}

/** Keeps a settings report; a refusal is told in words and nothing is kept. */
function useKeepDump(setRefused: (why: string | undefined) => void) {
  const keepThing = useKeep();
  return async (name: string, bytes: Blob, source: 'file' | 'link' = 'file') => {
    if (bytes.size > LONGEST_DUMP)
      return setRefused(
        `${name} has ${bytes.size} bytes; a settings report has a few thousand, and at most ${LONGEST_DUMP} are read`,
      );
    setRefused(await keepThing('dump', name, bytes, source));
  };
}

function Group({ title, open, rows }: { title: string; open: boolean; rows: CarryRow[] }) {
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

/** Bytes that cannot be shown stand as a dot. */
const shown = (text: string) => text.replace(/[^\P{C}\t]|\ufffd/gu, '·').slice(0, 200);

function UnreadLine({ line, text, from = 0 }: Dump['unread'][number]) {
  const [teaching, setTeaching] = useState(false);
  const said = text.slice(from).trim();
  const teachable = said === shown(said) && numbersIn(said).length > 0;
  return (
    <li value={line}>
      {shown(text)}{' '}
      {teachable && !teaching && (
        <Button size="compact-xs" variant="default" onClick={() => setTeaching(true)}>
          Teach it
        </Button>
      )}
      {teaching && <TeachLine text={said} onDone={() => setTeaching(false)} />}
    </li>
  );
}

function CarryLine({ row }: { row: CarryRow }) {
  const { change, machine, facts } = useWorkbench();
  const [refused, setRefused] = useState<string>();
  const { dump, option, would, had, proposed } = row;
  const own = option && machine.settings[option.key];
  const value = proposed ?? had;
  const taken = own !== undefined && own.value === value;
  const take = async () => {
    if (!option || value === undefined) return;
    const because = `carried over from the old board: ${row.because}`;
    setRefused(
      await change(`${option.label}: ${valueInWords(value)} carried over`, [
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
      <td className="figures">{would ? valueInWords(would.value) : '–'}</td>
      <td>
        {row.because}
        {refused && <span className="refused"> {refused}</span>}
      </td>
      <td>
        {taken ? (
          <span className="proven">taken</span>
        ) : proposed !== undefined ? (
          <Button size="compact-xs" onClick={() => void take()}>
            Take {valueInWords(proposed)}
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
