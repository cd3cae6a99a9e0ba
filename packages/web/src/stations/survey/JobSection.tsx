import { changesOver, type EditedChanges } from '@jolly/session/changesOver';
import { sameValue } from '@jolly/core/tree/sameValue';
import { keysOf, oneOf } from '@jolly/core/tree/keysOf';
import type { StoredJob } from '@jolly/contract/endpoints/jobs';
import { Button, NativeSelect, TextInput } from '@mantine/core';
import type { Change, ChangeKind } from '@jolly/core/ripple/change';
import { CHANGE_KINDS, CHANGE_TYPES } from '@jolly/core/ripple/changes';
import { type Advice, advise, REASONS, type Reason } from '@jolly/core/ripple/advice';
import { cut } from '@jolly/core/text/plainText';
import { planned } from '@jolly/core/ripple/replan';
import { type Facts, type Problem, resolve } from '@jolly/core/machine/facts';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useJob } from '../../job/JobProvider';
import type { JobTail } from '../../workbench/coreWorker';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import { blankChange } from './changeFields';
import { stillToChoose, wholeChanges } from './stillToChoose';
import { ChangeForm } from './ChangeForm';
import { EndJob } from './EndJob';
import { Rounds } from './Rounds';
import { CameFor } from './CameFor';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { upperFirst } from '../../ui/letterCase';
import css from './SurveyStation.module.css';
import { TakeBack } from './TakeBack';

const SHORTEST_WHY = 10;

/** What changed or what is missing; and whether that is a reason to touch the machine at all. */
export function JobSection() {
  const { stored } = useJob();
  return stored ? <OpenJob key={stored.id} stored={stored} /> : <NewJob />;
}

function useBefore(): Facts | undefined {
  const { facts } = useWorkbench();
  const { before } = useJob();
  return useMemo(() => {
    const resolved = resolve(before, facts.catalogue);
    return 'facts' in resolved ? resolved.facts : undefined;
  }, [before, facts.catalogue]);
}

function NewJob() {
  const { machine, core } = useWorkbench();
  const { start } = useJob();
  const before = useBefore();
  const [draft, setDraft] = useDraft<JobDraft>(`job:new:${machine.id}`, NO_DRAFT);
  const { reason, changes, title, overruled } = draft;
  const set = (part: Partial<JobDraft>) => setDraft((now) => ({ ...now, ...part }));
  const { refused, act } = useAct();
  const [search, setSearch] = useSearchParams();
  const greeted = () => setSearch({ at: 'job' }, { replace: true });
  const toChoose = before ? stillToChoose(changes, before) : [];
  const tail = useQuery<JobTail | { problems: Problem[] }>({
    queryKey: ['draft', machine.id, reason, changes],
    queryFn: async () => core.tail(machine, changes, reason),
    placeholderData: (old) => old,
    enabled: toChoose.length === 0,
  });
  if (!before) return null;
  const known = toChoose.length === 0 && tail.data && 'advice' in tail.data ? tail.data : undefined;
  const advice = known?.advice ?? advise(reason, changes, undefined);
  const suggested = changes.map((change) => CHANGE_TYPES[change.kind].title.toLowerCase()).join(', ');
  const name = title || upperFirst(cut(suggested, 79));
  const leave = advice.verdict === 'leave it alone';
  const contradictions = known?.ripple.contradictions ?? [];
  const ready =
    changes.length > 0 &&
    toChoose.length === 0 &&
    contradictions.length === 0 &&
    (!leave || overruled.trim().length >= SHORTEST_WHY);
  return (
    <>
      <TakeBack />
      {search.get('new') === 'yes' && (
        <CameFor
          name={machine.name}
          hasProbe={machine.probe_mount !== undefined}
          onKind={(kind) => {
            set({ changes: [blankChange(kind, before, [])] });
            greeted();
          }}
          onNothing={greeted}
        />
      )}
      <h2>What changed, or what is missing?</h2>
      <NativeSelect
        label="Why you want to touch this machine"
        data={Object.entries(REASONS).map(([value, { title: words }]) => ({ value, label: words }))}
        value={reason}
        onChange={(event) =>
          set({ reason: oneOf(keysOf(REASONS), event.currentTarget.value) ?? draft.reason })
        }
      />
      <ChangeList changes={changes} facts={before} onChanges={(next) => set({ changes: next })} />
      <AdviceBox
        {...{ leave, advice, toChoose }}
        ripple={changes.length > 0 ? known?.ripple : undefined}
        overruled={changes.length > 0 ? overruled : undefined}
        onOverruled={(words) => set({ overruled: words })}
      />
      {changes.length > 0 && (
        <TextInput
          label="Name of the job"
          value={title}
          placeholder={name}
          maxLength={80}
          onChange={(event) => set({ title: event.currentTarget.value })}
        />
      )}
      <Refused why={refused} />
      <div className="row">
        <Button
          disabled={!ready}
          onClick={() =>
            void act(() =>
              start({
                title: name,
                reason,
                ...(leave && { overruled: overruled.trim() }),
                changes,
                taken: [],
              }),
            ).then((opened) => opened && setDraft(undefined))
          }
        >
          Open the job
        </Button>
      </div>
    </>
  );
}

/** Whether there is a reason to touch the machine, what would follow, and what is still to choose. */
function AdviceBox({
  leave,
  advice,
  ripple,
  toChoose,
  overruled,
  onOverruled,
}: {
  leave: boolean;
  advice: Advice;
  /** What follows from the changes, once there are any and it is known. */
  ripple: JobTail['ripple'] | undefined;
  toChoose: readonly string[];
  /** Why the advice is overruled; undefined while there is nothing to overrule it for. */
  overruled: string | undefined;
  onOverruled: (words: string) => void;
}) {
  const contradictions = ripple?.contradictions ?? [];
  const count = ripple?.consequences.length;
  return (
    <div className={css.advice} data-leave={leave} role="status">
      <strong>{leave ? 'Leave it alone' : 'There is a reason'}</strong>
      <p>{advice.because}</p>
      {advice.noFlash && <p>{advice.noFlash}</p>}
      {contradictions.map((entry) => (
        <p key={entry.what} className="refused">
          {entry.what} {entry.why}
        </p>
      ))}
      {toChoose.length > 0 && <p>{chooseInWords(toChoose)}</p>}
      {ripple && contradictions.length === 0 && (
        <p>
          {count} {count === 1 ? 'consequence' : 'consequences'}, {ripple.flash ? 'with' : 'without'} a new
          image.
        </p>
      )}
      {leave && overruled !== undefined && (
        <TextInput
          label="Overrule this, in your own words"
          description={`at least ${SHORTEST_WHY} letters; it goes into the logbook`}
          value={overruled}
          onChange={(event) => onOverruled(event.currentTarget.value)}
        />
      )}
    </div>
  );
}

function OpenJob({ stored }: { stored: StoredJob }) {
  const { tail, save } = useJob();
  const before = useBefore();
  // Edits that are not saved yet outlive leaving the view, and what is planned or ticked elsewhere.
  const [draft, setDraft] = useDraft<EditedChanges | null>(`job:${stored.id}`, null);
  const { refused, act } = useAct();
  if (!before) return null;
  const { changes: now } = stored.job;
  const changes = draft ? changesOver(now, draft) : now;
  const edited = !sameValue(changes, now);
  const toChoose = stillToChoose(changes, before);
  const setChanges = (to: Change[] | undefined) => setDraft(to && { from: now, to });
  const keep = async () => {
    const saved = await act(() =>
      save('Changes of the job saved', (job) => {
        const wanted = changesOver(job.changes, { from: now, to: changes });
        return {
          changes: wanted,
          taken: job.taken.filter((id) => wanted.some((change) => change.id === id)),
        };
      }),
    );
    if (saved) setChanges(undefined);
  };
  return (
    <>
      <h2>{stored.job.title}</h2>
      <p className="soft">
        {stored.job.overruled
          ? `Started against the advice: ${stored.job.overruled}.`
          : (tail?.advice.because ?? '')}{' '}
        {tail?.advice.noFlash} {tail?.advice.deskFirst}
      </p>
      {tail?.ripple.contradictions.map((entry) => (
        <p key={entry.what} className="refused" role="alert">
          {entry.what} {entry.why}
        </p>
      ))}
      <ChangeList changes={changes} facts={before} onChanges={setChanges} />
      {edited && (
        <div className="row" role="group" aria-label="Edited changes">
          <Button disabled={toChoose.length > 0} onClick={() => void keep()}>
            Save the changes
          </Button>
          <Button variant="default" onClick={() => setChanges(undefined)}>
            Drop them
          </Button>
          <span className="soft">
            {toChoose.length > 0
              ? chooseInWords(toChoose)
              : 'The machine file follows; what you set by hand stays.'}
          </span>
        </div>
      )}
      <Refused why={refused} />
      <Rounds />
      <EndJob />
    </>
  );
}

const chooseInWords = (what: readonly string[]): string => `Still to choose: ${what.join('; ')}.`;

interface JobDraft {
  reason: Reason;
  changes: Change[];
  title: string;
  overruled: string;
}
const NO_DRAFT: JobDraft = { reason: 'part', changes: [], title: '', overruled: '' };

/** The machine with the other changes of the job made: a probe moves on the board that it will sit on. */
function withOthers(facts: Facts, changes: Change[], but?: Change): Facts {
  const others = wholeChanges(changes, facts).filter((change) => change !== but);
  const resolved = resolve(planned(facts.machine, others, facts.catalogue), facts.catalogue);
  return 'facts' in resolved ? resolved.facts : facts;
}

function ChangeList({
  changes,
  facts,
  onChanges,
}: {
  changes: Change[];
  facts: Facts;
  onChanges: (changes: Change[]) => void;
}) {
  const [kind, setKind] = useState<ChangeKind | ''>('');
  const add = () => {
    if (!kind) return;
    const ids = changes.map((change) => change.id);
    onChanges([...changes, blankChange(kind, withOthers(facts, changes), ids)]);
    setKind('');
  };
  return (
    <div className={css.changes}>
      {changes.map((change, index) => (
        <ChangeForm
          key={change.id}
          change={change}
          index={index}
          facts={withOthers(facts, changes, change)}
          onChange={(next) => onChanges(changes.map((entry) => (entry.id === change.id ? next : entry)))}
          onRemove={() => onChanges(changes.filter((entry) => entry.id !== change.id))}
        />
      ))}
      {/* Choosing and adding are two acts: whoever types in a list passes over others on the way. */}
      <div className={css.adding}>
        <NativeSelect
          label={changes.length > 0 ? 'And another change' : 'The change'}
          value={kind}
          data={[
            { value: '', label: 'choose what changes …' },
            // A lead is moved at Wiring, where its places are shown.
            ...CHANGE_KINDS.filter((value) => value !== 'rewire').map((value) => ({
              value,
              label: `${CHANGE_TYPES[value].title}: ${CHANGE_TYPES[value].about}`,
            })),
          ]}
          onChange={(event) => setKind(oneOf(CHANGE_KINDS, event.currentTarget.value) ?? '')}
        />
        <Button variant="default" disabled={!kind} onClick={add}>
          Add this change
        </Button>
      </div>
    </div>
  );
}
