import type { CardRoute } from '@jolly/core/board/route';
import { faultsLaid } from '@jolly/core/bringup/handAct';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import { fitFindings } from '@jolly/core/build/fitFindings';
import type { Filled } from '@jolly/core/tree/filled';
import { cardState, suggestedName } from '@jolly/session/cardState';
import { newestDone, upToDate } from '@jolly/session/newestBuild';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { api } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { tape } from '../../app/tape/tape';
import { isLive } from '@jolly/session/power';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import { useFlashes } from './useFlashes';
import { useRefreshBoard } from './useRefreshBoard';

interface SdCard {
  format: 'FAT32' | 'exFAT';
  sizeGb: number;
}
export const CARDS: Filled<SdCard> = [
  { format: 'FAT32', sizeGb: 8 },
  { format: 'FAT32', sizeGb: 32 },
  { format: 'exFAT', sizeGb: 64 },
];

/** An image on its way to the board by card: what is written, what is there, and the two acts. */
export function useCardRoute(data: CardRoute) {
  const workbench = useWorkbench();
  const { machine, chip } = workbench;
  const station = useStation();
  const bench = useBench();
  const live = usePowered(isLive);
  const { write } = tape;
  const { act, busy, refused } = useAct(useRefreshBoard());
  const flashes = useFlashes();
  const last = flashes.data?.find(({ route, does }) => route === 'card' && does === 'write');
  const [search] = useSearchParams();
  // An older image that is flashed again stands in for the newest.
  const again = station.builds.filter(({ id, state }) => id === search.get('build') && state === 'done');
  const builds = again.length > 0 ? again : station.builds;
  const done = newestDone(builds, workbench.board);
  const suggested = suggestedName(workbench, station.board, new Date().toISOString().slice(0, 10));
  const [name, setName] = useState(suggested);
  const [card, setCard] = useState<SdCard>(CARDS[0]);
  const [outcome, setOutcome] = useState<CardOutcome>();
  useEffect(() => setName(suggested), [suggested]);
  const { taken, onCard, against } = cardState({ workbench, ...station, builds });

  const writeCard = async (image: NonNullable<typeof done>) => {
    await act(async () => {
      const files = [{ name: name.trim(), imageHash: image.imageHash }];
      await api.putCard({ id: machine.id }, { card: { ...card, files } });
      setOutcome(undefined);
      write('done', `Card written: ${name.trim()}, and put into the slot`);
    });
  };
  const switchOn = async () => {
    await act(async () => {
      const { outcome: told } = await api.flash(
        { id: machine.id },
        { laid: faultsLaid(bench.powered.now().hands) },
      );
      setOutcome(told);
      write(
        'done',
        told.taken
          ? `The bootloader took ${told.name}`
          : `The bootloader left the card alone: ${told.because}`,
      );
      await bench.powerOn(true);
    });
  };
  // Over USB the board shows the card in its slot while it has power; by itself it is written apart from it.
  const overUsb = data.kind === 'card-over-usb';
  const slotEmpty = overUsb && !station.board?.card;
  const whyNot = slotEmpty
    ? 'The slot is empty, so no drive appears. Put a card in first, with the power off: by card.'
    : overUsb && !live
      ? 'The drive appears while the board has power.'
      : undefined;
  return {
    data,
    whyNot,
    canWrite: overUsb ? live && !slotEmpty : !live,
    flashes,
    /** The newest image there is, or the older one that is flashed again. */
    done,
    again: again.length > 0,
    upToDate: upToDate({ workbench, builds }),
    tooLarge: done !== undefined && fitFindings(done.sizes, chip).some(({ severity }) => severity === 'stop'),
    suggested,
    name,
    setName,
    card,
    setCard,
    inSlot: station.board?.card,
    outcome: outcome ?? last?.outcome,
    taken,
    onCard,
    written: taken || onCard,
    named: taken || (onCard && against.length === 0),
    powered: live,
    busy,
    refused,
    writeCard,
    switchOn,
  };
}

export type CardRouteState = ReturnType<typeof useCardRoute>;
