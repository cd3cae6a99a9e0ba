import type { Board } from '@jolly/core/board/board';
import type { Landing } from '@jolly/core/machine/landing';
import type { Machine } from '@jolly/core/machine/machine';
import { notKnownWithout, proposedParts, proposedPlace } from '@jolly/core/checks/notKnownChecks';
import { resolve } from '@jolly/core/machine/facts';
import { sameBoard } from '@jolly/core/machine/same';
import { withLandings } from '@jolly/core/ripple/withLanding';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useJob } from '../../job/JobProvider';
import { plannedFrom } from '../../job/plannedFrom';
import type { WiringView } from '../../workbench/coreWorker';
import { useWorkbench } from '../../workbench/Workbench';

export interface Wiring {
  /** Another one for another wiring. */
  key: string;
  view: WiringView;
  /** The machine as it stands on the bench, and as it will be; the same when no job is open. */
  before: Machine;
  after: Machine;
  boards: { before: Board; after: Board };
  swap: boolean;
  /** Lands parts elsewhere, in the open job where there is one; a refusal comes back as a sentence. */
  land(label: string, landings: Record<string, Landing>): Promise<string | undefined>;
  /** Gives every part without a place the cheapest one; nobody has looked yet whether it sits there. */
  propose(): Promise<string | undefined>;
  /** Somebody has followed the lead of this part to the place that was proposed. */
  seen(part: string): Promise<string | undefined>;
  /** Parts whose places were proposed, and that nobody has followed yet. */
  unseen: string[];
  /** Plans leads to be moved by hand: in the open job, or in a job of its own, so that the swap sheet has them. */
  move(label: string, landings: Record<string, Landing>): Promise<string | undefined>;
}

/** The wiring of the machine at hand; undefined until it is computed, or why it could not be. */
export function useWiring(): Wiring | { failed: string } | undefined {
  const { machine, version, facts, core, change } = useWorkbench();
  const job = useJob();
  const { stored, tail, before } = job;
  // While a job is open, its plan says how the machine will be wired, taken over or not; what was set by hand stays.
  const after = useMemo(
    () => (stored && tail ? plannedFrom(machine, stored.job, tail.ripple.after, facts.catalogue) : machine),
    [stored, tail, machine, facts.catalogue],
  );
  const consequences = tail?.ripple.consequences ?? [];
  // A tail may lag behind the job for a moment: what is computed is known by what it is computed from.
  const key = JSON.stringify([version, before.harness, after, consequences.map(({ id }) => id)]);
  const view = useQuery({
    queryKey: ['wiring', machine.id, key, facts.catalogue.boards.length],
    queryFn: async () => {
      const answer = await core.wiring(before, after, consequences);
      if ('problems' in answer) throw new Error(answer.problems[0].message);
      return answer;
    },
    enabled: stored === undefined || tail !== undefined,
    staleTime: Infinity,
    placeholderData: (old) => old,
  });
  const boards = useMemo(() => {
    const [was, is] = [resolve(before, facts.catalogue), resolve(after, facts.catalogue)];
    return 'facts' in was && 'facts' in is ? { before: was.facts.board, after: is.facts.board } : undefined;
  }, [before, after, facts.catalogue]);
  if (view.error) return { failed: view.error.message };
  if (!view.data || !boards) return undefined;
  const land: Wiring['land'] = (label, landings) => {
    if (!stored)
      return change(label, [
        ...Object.entries(landings).map(([part, landing]) => ({ path: ['harness', part], value: landing })),
        // Whoever says where it sits has seen it.
        ...(machine.not_known
          ? [{ path: ['not_known'], value: notKnownWithout(machine, Object.keys(landings)) }]
          : []),
      ]);
    return job.save(label, (now) => {
      const changes = withLandings(before, now.changes, landings);
      const added = changes.filter(({ id }) => !now.changes.some((entry) => entry.id === id));
      return { changes, taken: [...now.taken, ...added.map(({ id }) => id)] };
    });
  };
  const move: Wiring['move'] = (label, landings) => {
    if (stored) return land(label, landings);
    const changes = withLandings(machine, [], landings);
    return job.start({ title: label, reason: 'bug', changes, taken: changes.map(({ id }) => id) });
  };
  const propose: Wiring['propose'] = async () => {
    const landings = await core.propose(after);
    const label = `${Object.keys(landings).length} places proposed`;
    if (stored) return land(label, landings);
    const open = machine.not_known ?? [];
    const unseen = Object.keys(landings).map(proposedPlace).filter((id) => !open.includes(id)); // prettier-ignore
    return change(label, [
      ...Object.entries(landings).map(([part, landing]) => ({ path: ['harness', part], value: landing })),
      { path: ['not_known'], value: [...open, ...unseen] },
    ]);
  };
  const seen: Wiring['seen'] = (part) =>
    change(`${part} sits where it was proposed`, [
      { path: ['not_known'], value: notKnownWithout(machine, [part]) },
    ]);
  return {
    key,
    view: view.data,
    before,
    after,
    boards,
    swap: !sameBoard(before, after),
    land,
    propose,
    seen,
    unseen: proposedParts(machine),
    move,
  };
}
