import { sameBoardType } from '@jolly/core/machine/same';
import { oneOf } from '@jolly/core/tree/keysOf';
import { boardBy } from '@jolly/core/catalogue/catalogue';
import { Button, NativeSelect, NumberInput, TextInput } from '@mantine/core';
import type { Board } from '@jolly/core/board/board';
import {
  type Candidate,
  displayPlug,
  type Identification,
  type Seen,
  terminalCount,
} from '@jolly/core/board/identifyBoard';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { boardFileUrl } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { BoardDrawing } from '../../ui/BoardDrawing';
import { useWorkbench } from '../../workbench/Workbench';
import { BeginBoard } from '../boards/BeginBoard';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';

const SHOWN = 5;
const PICTURES = 3;

/** Which board is this? From what can be read and counted, however worn; and the one next thing to look at. */
export function BoardSection() {
  const { facts, core } = useWorkbench();
  const { before, stored, isDone } = useJob();
  const [seen, setSeen] = useState<Seen>({});
  const found = useQuery<Identification>({
    queryKey: ['identify', seen, facts.catalogue.boards.length],
    queryFn: () => core.identify(seen),
    meta: { what: 'which board it is' },
    placeholderData: (old) => old,
    staleTime: Infinity,
  });
  const set = (part: Partial<Seen>) => setSeen((old) => ({ ...old, ...part }));
  const answer = (feature: string, value: string) => {
    const { boards } = facts.catalogue;
    const like = boards.find((board) => board.print.join(' ') === value);
    if (feature.includes('/')) set({ tells: { ...seen.tells, [feature]: value } });
    else if (feature === 'sockets' || feature === 'terminals') set({ [feature]: Number(value) });
    else set({ [feature]: feature === 'print' && like ? like.print.join(' ') : value });
  };
  const asked = Object.values(seen).some((value) => value !== undefined && value !== '' && value !== 'any');
  const described = boardBy(facts.catalogue, before.board);
  return (
    <>
      <h2>Which board is on the bench?</h2>
      <p className="soft">
        The machine file says {described?.name ?? before.board.id} rev {before.board.revision}. Type what you
        can read; a “?” stands for a letter you cannot.
      </p>
      <Added />
      <SeenForm seen={seen} setSeen={setSeen} />
      {asked && (
        <Button size="xs" variant="subtle" onClick={() => setSeen({})}>
          Begin again
        </Button>
      )}
      {found.data?.next && <Next next={found.data.next} onAnswer={answer} />}
      {found.data && <Candidates found={found.data} />}
      <div className="row">
        <BeginBoard
          words="It is none of these: describe it"
          back={`/machines/${before.id}/survey?at=board`}
        />
        {described && <a href={boardFileUrl(described)}>Save {described.name} as a board file</a>}
      </div>
      {stored && isDone('survey:board') && <p className="proven">You know which board it is.</p>}
    </>
  );
}

/** One comes back from describing a board: it stands in the list now. */
function Added() {
  const { facts } = useWorkbench();
  const [search] = useSearchParams();
  const [id = '', revision = ''] = (search.get('added') ?? '').split(' ');
  const added = boardBy(facts.catalogue, { id, revision });
  if (!added) return null;
  return (
    <p className="proven" role="status">
      {added.name} rev {added.revision} was added. Type what you can read on the board, and it is weighed with the others.
    </p>
  ); // prettier-ignore
}

type SetSeen = (make: (old: Seen) => Seen) => void;

function SeenForm({ seen, setSeen }: { seen: Seen; setSeen: SetSeen }) {
  return (
    <div className={css.seen}>
      <TextInput
        label="Printed on the board"
        placeholder="name, revision"
        value={seen.print ?? ''}
        onChange={({ currentTarget: { value } }) => setSeen((old) => ({ ...old, print: value }))}
      />
      <TextInput
        label="On the biggest chip"
        placeholder="its marking"
        value={seen.chip ?? ''}
        onChange={({ currentTarget: { value } }) => setSeen((old) => ({ ...old, chip: value }))}
      />
      <CountInput
        label="Driver places"
        value={seen.sockets}
        onCount={(sockets) => setSeen((old) => without(old, 'sockets', sockets))}
      />
      <CountInput
        label="Screw terminals"
        value={seen.terminals}
        onCount={(terminals) => setSeen((old) => without(old, 'terminals', terminals))}
      />
      <NativeSelect
        label="Drivers are"
        data={['not looked at', 'plugged in', 'soldered']}
        value={seen.drivers ?? 'not looked at'}
        onChange={(event) => {
          const value = event.currentTarget.value;
          setSeen((old) => without(old, 'drivers', oneOf(['plugged in', 'soldered'], value)));
        }}
      />
      <DisplayInput seen={seen} onDisplay={(display) => setSeen((old) => without(old, 'display', display))} />
    </div>
  );
}

function Candidates({ found }: { found: Identification }) {
  const shown = found.ranked.slice(0, SHOWN);
  const others = found.ranked.slice(SHOWN).filter(({ share }) => share > 0);
  const left = others.reduce((sum, { share }) => sum + share, 0);
  // It stands among them where it belongs.
  const above = shown.filter(({ share }) => share >= found.none);
  const none = found.none > 0 && <None share={found.none} likeliest={above.length === 0} />;
  return (
    <ol className={css.candidates} aria-label="Boards, most likely first">
      {above.map((candidate) => (
        <CandidateRow key={keyOf(candidate)} candidate={candidate} found={found} />
      ))}
      {none}
      {shown.slice(above.length).map((candidate) => (
        <CandidateRow key={keyOf(candidate)} candidate={candidate} found={found} />
      ))}
      {others.length > 0 && (
        <li className="soft">
          <b className="figures">{(left * 100).toFixed(0)} %</b>
          <span>
            {others.length} more:{' '}
            {others.map(({ board }) => `${board.name} rev ${board.revision}`).join(', ')}
          </span>
        </li>
      )}
    </ol>
  );
}

const keyOf = ({ board }: Candidate): string => `${board.id} ${board.revision}`;

function CandidateRow({ candidate, found }: { candidate: Candidate; found: Identification }) {
  const { board, share } = candidate;
  const isCertain = found.decided === board;
  return (
    <li data-decided={isCertain}>
      <b className="figures">{(share * 100).toFixed(0)} %</b>
      <div>
        <strong>
          {board.name} rev {board.revision}
        </strong>
        <small>
          {[...candidate.for, ...candidate.against].join('; ') ||
            `${board.sockets.length} driver places, ${terminalCount(board)} screw terminals, display plug ${displayPlug(board)}`}
        </small>
      </div>
      <Decide board={board} likely={isCertain} />
    </li>
  );
}

/** That it is none of the known ones: whoever takes the nearest instead builds for another board. */
function None({ share, likeliest }: { share: number; likeliest: boolean }) {
  return (
    <li className={likeliest ? undefined : 'soft'}>
      <b className="figures">{(share * 100).toFixed(0)} %</b>
      <span>
        None of these
        {likeliest && ': what you see fits no board that is known here. Look again, or describe it below.'}
      </span>
    </li>
  );
}

/** The seen things with one set, or forgotten when it is undefined. */
function without<K extends keyof Seen>(seen: Seen, key: K, value: Seen[K] | undefined): Seen {
  const { [key]: _old, ...others } = seen;
  // All of it may be left out.
  return value === undefined ? (others as Seen) : { ...seen, [key]: value };
}

function CountInput({
  label,
  value,
  onCount,
}: {
  label: string;
  value: number | undefined;
  onCount: (count: number | undefined) => void;
}) {
  return (
    <NumberInput
      label={label}
      placeholder="count them"
      min={0}
      max={40}
      allowDecimal={false}
      hideControls
      value={value ?? ''}
      onChange={(next) => onCount(typeof next === 'number' ? next : undefined)}
    />
  );
}

function DisplayInput({ seen, onDisplay }: { seen: Seen; onDisplay: (family: string | undefined) => void }) {
  const { facts } = useWorkbench();
  const plugs = useMemo(
    () => [...new Set(facts.catalogue.boards.map(displayPlug))],
    [facts.catalogue.boards],
  );
  return (
    <NativeSelect
      label="Display plug"
      data={['not looked at', ...plugs]}
      value={seen.display ?? 'not looked at'}
      onChange={(event) =>
        onDisplay(event.currentTarget.value === 'not looked at' ? undefined : event.currentTarget.value)
      }
    />
  );
}

function Next({
  next,
  onAnswer,
}: {
  next: NonNullable<Identification['next']>;
  onAnswer: (feature: string, value: string) => void;
}) {
  return (
    <section className={css.next} aria-label="Look at this next">
      <div>
        <h3>Look at this next</h3>
        <p>{next.look}</p>
        <p className="soft">Its answer tells the boards that are left apart best. What is there?</p>
        <div className="row">
          {next.answers.slice(0, 8).map((answer) => (
            <Button
              key={answer.value}
              size="xs"
              variant="default"
              onClick={() => onAnswer(next.feature, answer.value)}
            >
              {answer.value}
            </Button>
          ))}
        </div>
      </div>
      <div className={css.places}>
        {next.places.slice(0, PICTURES).map(({ board, at_mm: at }) => (
          <figure key={`${board.id} ${board.revision}`}>
            <BoardDrawing board={board} look={at} />
            <figcaption>
              {board.name} rev {board.revision}
            </figcaption>
          </figure>
        ))}
      </div>
    </section>
  );
}

/** Says that a board is the one on the bench; where the machine file says another, it is put right first. */
function Decide({ board, likely }: { board: Board; likely: boolean }) {
  const { change } = useWorkbench();
  const { before, stored, tick } = useJob();
  const { refused, act } = useAct();
  const right = sameBoardType(board, before.board);
  const decide = async () => {
    const title = `The board is ${board.name} rev ${board.revision}`;
    if (right) return tick({ id: 'survey:board', kind: 'survey', subject: board.id, title }, true);
    if (stored)
      return 'the job was opened for another board: abandon it, put the board right, and open it again';
    return change(`Board: ${before.board.id} ${before.board.revision} → ${board.id} ${board.revision}`, [
      { path: ['board'], value: { id: board.id, revision: board.revision } },
      ...(board.id === before.board.id ? [] : [{ path: ['harness'], value: {} }]),
    ]);
  };
  if (right && !stored) return <span className="soft">as in the machine file</span>;
  return (
    <div>
      <Button size="xs" variant={likely ? 'filled' : 'default'} onClick={() => void act(decide)}>
        {right ? 'This is it' : 'It is this one'}
      </Button>
      <Refused why={refused} />
    </div>
  );
}
