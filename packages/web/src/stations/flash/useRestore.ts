import type { Kept } from '@jolly/contract/endpoints/kept';
import { useState } from 'react';
import { api } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { useTape } from '../../app/tape/tape';
import { useJob } from '../../job/JobProvider';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import { useRefreshBoard } from './useRefreshBoard';

/** A kept image on its way back: which there are, which is chosen, what it overwrites, and the act, asked for twice. */
export function useRestore() {
  const { machine, board } = useWorkbench();
  const { wayBack } = useJob();
  const station = useStation();
  const { write } = useTape();
  const { act, refused } = useAct(useRefreshBoard());
  const [chosen, choose] = useState<number>();
  const [asking, setAsking] = useState(false);
  const [restored, setRestored] = useState<string>();
  const images = (wayBack?.kept ?? []).filter((entry) => entry.kind === 'image' && entry.verdict !== 'empty');
  const fits = ({ board: from }: Kept) => from.id === board.id && from.revision === board.revision;
  const here = images.filter(fits);
  const image = here.find((entry) => entry.id === chosen) ?? here[0];
  const inFlash = station.board;
  const restore = async () => {
    if (!image) return;
    if (!asking) return setAsking(true);
    setAsking(false);
    await act(async () => {
      await api.restore({ id: machine.id }, { kept: image.id });
      setRestored(image.name);
      write('done', `Restored ${image.name} by programmer; it reads back the same`);
    });
  };
  return {
    here,
    elsewhere: images.filter((entry) => !fits(entry)),
    known: wayBack !== undefined,
    image,
    choose,
    asking,
    restore,
    restored,
    refused,
    empty: inFlash?.imageHash == null,
    holds: inFlash?.image
      ? `${inFlash.image.name}, build ${inFlash.image.buildId}`
      : inFlash?.imageHash
        ? 'a foreign image'
        : 'nothing',
  };
}
