import { corrected, type Cost, roomOf, worthOf } from '@jolly/core/fit/chooseFit';
import { editsOf, type Proposal, type Wish } from '@jolly/core/fit/proposals';
import { applyEdits } from '@jolly/core/machine/edit';
import { whyOf } from '@jolly/core/text/whyOf';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { useDraft } from '../../ui/useDraft';
import { useWorkbench } from '../../workbench/Workbench';
import type { DoneCosts } from './useCosts';

/** What a person said of features, over what the kit and the job say. */
interface Said {
  worth: Record<string, number>;
  stays: Record<string, boolean>;
  chosen?: string;
}
/** A proposal that was really built. */
export interface Built {
  /** What was built: the proposal and the state of the machine. */
  of: string;
  cost: Cost;
  fits: boolean;
}
type Building = { doing: string } | { refused: string } | undefined;

/** So often what is chosen is put right by what was really built. */
const MOST_ROUNDS = 6;

/** Ways to make the image fit, by what features are worth, and the real build of the chosen one. */
export function useFit(run: DoneCosts) {
  const { machine, version, chip, core } = useWorkbench();
  const { costs } = run;
  const room = roomOf(chip);
  const [said, setSaid] = useDraft<Said>(`fit:${machine.id}`, { worth: {}, stays: {} });
  const [corrections, setCorrections] = useState<NonNullable<Wish['corrections']>>({});
  const [building, setBuilding] = useState<Building>();
  const [built, setBuilt] = useState<Built>();
  const came = useCameWithJob();
  const stays = (key: string) => said.stays[key] ?? came.has(key);
  const wish: Wish = {
    worth: said.worth,
    locked: costs.features.filter(({ key, on }) => on && stays(key)).map(({ key }) => key),
    corrections,
  };
  const found = useQuery({
    queryKey: ['fit', machine.id, run.endedAt, room, wish],
    queryFn: async () => core.proposals(costs, room, wish),
    meta: { what: 'ways to make it fit' },
    staleTime: Infinity,
    placeholderData: (before) => before,
  }).data;
  const list = found === undefined || 'short' in found ? [] : found;
  const chosen = list.find(({ title }) => title === said.chosen) ?? list[0];
  const nameOf = (proposal: Proposal) => JSON.stringify([version, editsOf(proposal, costs)]);

  /** Builds a proposal; where it takes more than the sum of its costs, chooses anew with that, and builds again. */
  const build = async (first: Proposal) => {
    let proposal: Proposal | undefined = first;
    let known = corrections;
    try {
      for (let round = 1; proposal && round <= MOST_ROUNDS; round += 1) {
        setBuilding({ doing: round === 1 ? 'Building what is chosen' : `Costs did not add up; building what is chosen now, round ${round}` }); // prettier-ignore
        const sizes = await api.sizes({ id: machine.id }, applyEdits(machine, editsOf(proposal, costs)));
        const cost = { flash: sizes.flashBytes, ram: sizes.ramBytes };
        const fits = cost.flash <= room.flash && cost.ram <= room.ram;
        setBuilt({ of: nameOf(proposal), cost, fits });
        if (fits) return setBuilding(undefined);
        const way = proposal.harder ? 'harder' : 'plain';
        known = { ...known, [way]: corrected(known[way], proposal.predicted, cost) };
        setCorrections(known);
        const next = await core.proposals(costs, room, { ...wish, corrections: known });
        proposal = 'short' in next ? undefined : (next.find(({ title }) => title === first.title) ?? next[0]);
      }
      setBuilding({ refused: 'Nothing that can be left out makes it fit.' });
    } catch (error) {
      setBuilding({ refused: whyOf(error) });
    }
  };

  return {
    costs,
    room,
    list,
    chosen,
    short: found && 'short' in found ? found.short : undefined,
    came,
    stays,
    worth: (key: string) => worthOf(costs.features.find((feature) => feature.key === key) ?? { key, worth: 0 }, wish), // prettier-ignore
    choose: (title: string) => setSaid((now) => ({ ...now, chosen: title })),
    setWorth: (key: string, worth: number) => setSaid((now) => ({ ...now, worth: { ...now.worth, [key]: worth } })), // prettier-ignore
    setStays: (key: string, stay: boolean) => setSaid((now) => ({ ...now, stays: { ...now.stays, [key]: stay } })), // prettier-ignore
    build,
    building,
    /** What the chosen one came to when it was built, as the machine is now. */
    built: chosen && built?.of === nameOf(chosen) ? built : undefined,
  };
}

export type Fit = ReturnType<typeof useFit>;

/** Features that the open job brought: what it was begun for stays. */
function useCameWithJob(): ReadonlySet<string> {
  const { core, settings, machine, version } = useWorkbench();
  const { stored } = useJob();
  const before = useQuery({
    queryKey: ['settings-before', machine.id, version, stored?.id],
    queryFn: stored ? () => core.settingsOf(stored.job.before) : skipToken,
    meta: { what: 'what came with the job' },
    staleTime: Infinity,
  }).data;
  return new Set(
    (before ?? []).filter(({ key, value }) => settings.get(key)?.value !== value).map(({ key }) => key),
  );
}
