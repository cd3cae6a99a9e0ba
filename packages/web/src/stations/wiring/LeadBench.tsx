import { openPartsInWords } from '@jolly/core/describe/openParts';
import { Button, NativeSelect, SegmentedControl, Switch, TextInput } from '@mantine/core';
import type { Landing } from '@jolly/core/machine/landing';
import type { MachinePart } from '@jolly/core/machine/machine';
import { endInWords } from '@jolly/core/formats/swapSheet';
import { isWired } from '@jolly/core/parts/part';
import { partById } from '@jolly/core/catalogue/catalogue';
import type { PlacesOf } from '../../workbench/coreWorker';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import type { BenchLead } from './benchLead';
import { CannotConnect } from './CannotConnect';
import { HeaderPanel } from './HeaderPanel';
import { LeadDrawing } from './LeadDrawing';
import { LeadPanel } from './LeadPanel';
import { placeOf } from './leadLines';
import type { Wiring } from './useWiring';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useSought } from '../../ui/useSought';
import { holdsWords } from '@jolly/core/text/holdsWords';
import css from './Wiring.module.css';

/** Both boards with every lead between them; a lead is taken by mouse or keys and landed where it is lit. */
export function LeadBench({ wiring }: { wiring: Wiring }) {
  const { core, facts } = useWorkbench();
  const job = useJob();
  const { lead, choose } = useChosenLead();
  const [over, setOver] = useState(false);
  const [onlyDiffering, setOnlyDiffering] = useState(false);
  const { words: sought, seek } = useSought(`leads:${wiring.after.id}`);
  const { refused, act } = useAct();
  /** The lead that was taken up by a key: its list of places gets the focus once it is there. */
  const [takenUp, setTakenUp] = useState<string>();
  const [pointedAt, setPointedAt] = useState<string>();
  const [header, setHeader] = useState<string>();
  const leads = useMemo(
    () => benchLeads(wiring, facts.catalogue, job.isDone),
    [wiring, facts.catalogue, job],
  );
  const chosen = leads.find(({ part }) => part.id === lead);
  const landings = useQuery<PlacesOf>({
    queryKey: ['landings', wiring.after.id, wiring.key, chosen?.part.id],
    queryFn: chosen ? async () => core.landings(wiring.before, wiring.after, chosen.part.id) : skipToken,
    meta: { what: 'where this lead may go' },
    staleTime: Infinity,
  });
  const peeked = chosen ?? leads.find(({ part }) => part.id === pointedAt);
  const shown = leads.filter((lead) => (!onlyDiffering || lead.differs) && matches(lead, sought, wiring));
  const land = async ({ part }: Pick<BenchLead, 'part'>, landing: Landing) => {
    const unit = unitOf(wiring, part, landing);
    await act(() => wiring.land(`${part.id} to ${placeOf(landing)}`, unit));
  };
  const landById = (id: string, landing: Landing) => {
    const part = wiring.after.parts.find((one) => one.id === id);
    if (part) void land({ part }, landing);
  };
  return (
    <>
      <LeadBar
        wiring={wiring}
        {...{ over, setOver, sought, seek, onlyDiffering, setOnlyDiffering, header }}
        onHeader={(id) => {
          choose(undefined);
          setHeader(id);
        }}
        count={`${shown.length} of ${leads.length} leads`}
      />
      <LeadDrawing
        wiring={wiring}
        leads={shown}
        over={over && wiring.swap}
        chosen={chosen}
        pointedAt={pointedAt}
        onPoint={setPointedAt}
        landings={landings.data?.places ?? []}
        onChoose={choose}
        onTakeUp={(id) => {
          choose(id);
          setTakenUp(id);
        }}
        onLand={(lead, landing) => void land(lead, landing)}
        onHeader={(id) => {
          if (!chosen) setHeader(id);
        }}
      />
      <Refused why={refused} />
      {peeked ? (
        <LeadPanel
          key={peeked.part.id}
          wiring={wiring}
          lead={peeked}
          chosen={peeked === chosen}
          landings={landings.data}
          takenUp={takenUp === peeked.part.id}
          onFocused={() => setTakenUp(undefined)}
          onLand={(landing) => void land(peeked, landing)}
          onClose={() => choose(undefined)}
        />
      ) : header !== undefined ? (
        <HeaderPanel
          wiring={wiring}
          header={header}
          onLand={landById}
          onChoose={choose}
          onClose={() => setHeader(undefined)}
        />
      ) : (
        <Unplaced wiring={wiring} onChoose={choose} />
      )}
    </>
  );
}

/** The lead that is chosen stands in the address. */
function useChosenLead() {
  const [search, setSearch] = useSearchParams();
  const choose = (id: string | undefined) =>
    setSearch((old) => {
      const next = new URLSearchParams(old);
      if (id) next.set('lead', id);
      else next.delete('lead');
      return next;
    }, { replace: true }); // prettier-ignore
  return { lead: search.get('lead'), choose };
}

/** How the boards lie, and which leads are shown. */
function LeadBar({
  wiring,
  over,
  setOver,
  sought,
  seek,
  onlyDiffering,
  setOnlyDiffering,
  header,
  onHeader,
  count,
}: {
  wiring: Wiring;
  over: boolean;
  setOver: (over: boolean) => void;
  sought: string;
  seek: (words: string) => void;
  onlyDiffering: boolean;
  setOnlyDiffering: (only: boolean) => void;
  header: string | undefined;
  onHeader: (header: string | undefined) => void;
  count: string;
}) {
  return (
    <div className="row">
      {wiring.swap && <HowTheyLie over={over} setOver={setOver} />}
      <TextInput
        size="xs"
        aria-label="Find a lead, header or pin"
        placeholder="Lead, header or pin"
        value={sought}
        onChange={(event) => seek(event.currentTarget.value)}
      />
      <Switch
        size="xs"
        label="Differences only"
        checked={onlyDiffering}
        onChange={(event) => setOnlyDiffering(event.currentTarget.checked)}
      />
      <NativeSelect
        size="xs"
        aria-label="Point at a header"
        value={header ?? ''}
        onChange={({ currentTarget: { value } }) => onHeader(value || undefined)}
        data={[{ value: '', label: 'A header …' }, ...wiring.boards.after.headers.map(({ id }) => id)]}
      />
      <span className="soft">{count}</span>
    </div>
  );
}

function HowTheyLie({ over, setOver }: { over: boolean; setOver: (over: boolean) => void }) {
  return (
    <SegmentedControl
      size="xs"
      aria-label="How the boards lie"
      value={over ? 'over' : 'beside'}
      onChange={(value) => setOver(value === 'over')}
      data={[
        { value: 'beside', label: 'Side by side' },
        { value: 'over', label: 'One over the other' },
      ]}
    />
  );
}

/** What has no place, and what cannot have one. */
function Unplaced({ wiring, onChoose }: { wiring: Wiring; onChoose: (id: string) => void }) {
  const { unplaced, unmeetable } = wiring.view;
  const { busy, refused, act } = useAct();
  const propose = () => act(() => wiring.propose());
  const unknown = openPartsInWords(wiring.after);
  if (unplaced.length === 0 && unmeetable.length === 0)
    return (
      <p className="soft">
        {unknown === undefined
          ? 'Every part has a place.'
          : `Every part that is described has a place. Not known yet: ${unknown}.`}{' '}
        Choose a lead to see both its ends, or drag it: places it may go are lit with their price.
      </p>
    );
  return (
    <section className={css.panel} aria-label="Without a place">
      <CannotConnect list={unmeetable} />
      {unplaced.length > 0 && (
        <p>
          Without a place:{' '}
          {unplaced.map((id) => (
            <Button key={id} size="compact-xs" variant="default" onClick={() => onChoose(id)}>
              {id}
            </Button>
          ))}
        </p>
      )}
      {unplaced.length > 1 && (
        <p>
          <Button size="xs" disabled={busy} onClick={() => void propose()}>
            Propose the cheapest places
          </Button>{' '}
          <span className="soft">
            Or choose one after the other and say where it sits. Nothing is moved by it.
          </span>
        </p>
      )}
      <Refused why={refused} />
    </section>
  );
}

function benchLeads(
  wiring: Wiring,
  catalogue: Parameters<typeof partById>[0],
  isDone: (id: string) => boolean,
): BenchLead[] {
  const { before, after, view } = wiring;
  const parts = [
    ...after.parts,
    ...before.parts.filter(({ id }) => !after.parts.some((part) => part.id === id)),
  ];
  return parts.flatMap((part) => {
    const type = partById(catalogue, part.part);
    if (!type || type.kind === 'driver' || (!isWired(type) && !before.harness[part.id])) return [];
    const step = view.plan.steps.find(({ kind, subject }) => kind === 'lead' && subject === part.id);
    return [
      {
        part,
        name: type.name,
        from: before.harness[part.id],
        to: after.parts.includes(part) ? after.harness[part.id] : undefined,
        differs: step !== undefined,
        done: step !== undefined && isDone(step.id),
      },
    ];
  });
}

function matches(
  { part, name }: BenchLead,
  sought: string,
  { view, boards, after, before }: Wiring,
): boolean {
  if (sought.trim() === '') return true;
  const step = view.plan.steps.find(({ subject }) => subject === part.id);
  const pins = [
    [boards.before, before.harness[part.id]],
    [boards.after, after.harness[part.id]],
  ] as const;
  const words = [
    part.id,
    name,
    part.role,
    endInWords(step?.from),
    endInWords(step?.to),
    ...pins.flatMap(([board, landing]) =>
      landing && 'leads' in landing
        ? Object.values(landing.leads).flatMap((contact) => {
            const [id, number] = contact.split('.');
            return [
              contact,
              board.headers.find((header) => header.id === id)?.contacts[Number(number) - 1] ?? '',
            ];
          })
        : landing
          ? [landing.socket]
          : [],
    ),
  ];
  return holdsWords(words.join(' '), sought);
}

/** A motor takes its driver and the motors beside it along. */
function unitOf({ after, before }: Wiring, part: MachinePart, landing: Landing): Record<string, Landing> {
  if (!('socket' in landing)) return { [part.id]: landing };
  const old = after.harness[part.id] ?? before.harness[part.id];
  const socket = old && 'socket' in old ? old.socket : undefined;
  const together = after.parts.filter(({ id }) => {
    const there = after.harness[id];
    return id === part.id || (there && 'socket' in there && there.socket === socket);
  });
  return Object.fromEntries(
    together.map(({ id }) => {
      const there = after.harness[id];
      const turned = there && 'socket' in there ? there.turned : undefined;
      return [id, { socket: landing.socket, ...(turned && { turned }) }];
    }),
  );
}
