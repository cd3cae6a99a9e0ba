import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { type CardRoute } from '@jolly/core/board/route';
import { imagesOn, judgeCard } from '@jolly/core/flash/judgeCard';
import { useState } from 'react';
import { api, boardImageUrl } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { tape } from '../../app/tape/tape';
import { upperFirst } from '../../ui/letterCase';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import { type Folder, pickFolder, readFile, removeFile, rootOf, writeFile } from './realFolder';
import { useRefreshBoard } from './useRefreshBoard';

/** What the person says of a card: the browser cannot see it. */
export interface SaidOfCard {
  format: 'FAT32' | 'exFAT' | 'other' | '';
  sizeGb: number | '';
}

/** A real card in the computer: picked, looked through, written, read back. */
export function useRealCard(route: CardRoute, said: SaidOfCard) {
  const { machine } = useWorkbench();
  const { board } = useStation();
  const { write } = tape;
  const { act, busy, refused } = useAct(useRefreshBoard());
  const [folder, setFolder] = useState<Folder>();
  const [names, setNames] = useState<string[]>([]);
  const [written, setWritten] = useState<string>();
  const [picked, setPicked] = useState<'none' | 'cannot'>();
  const look = async (at: Folder) => setNames(await rootOf(at));

  const pick = () =>
    act(async () => {
      setWritten(undefined);
      const at = await pickFolder();
      if (!at) return setPicked(at === null ? 'none' : 'cannot');
      setPicked(undefined);
      setFolder(at);
      await look(at);
    });
  const put = (hash: string, name: string) =>
    act(async () => {
      if (!folder) return;
      const bytes = new Uint8Array(await (await fetch(boardImageUrl(machine.id, hash, 'bin', name))).arrayBuffer());
      await writeFile(folder, name, bytes);
      await api.wroteCard({ id: machine.id }, { fileName: name, imageHash: hash });
      setWritten(name);
      write('done', `${name} written to a real card, ${bytesInWords(bytes.length)}, read back the same`);
      await look(folder);
    });
  const remove = (name: string) =>
    act(async () => {
      if (!folder) return;
      await removeFile(folder, name);
      write('done', `${name} removed from the card`);
      await look(folder);
    });
  /** A file that the board renamed is what it took: kept, it is a way back. */
  const keep = (name: string) =>
    act(async () => {
      if (!folder) return;
      const { kept } = await api.keep({ id: machine.id, kind: 'image', name, source: 'file' }, new Blob([await readFile(folder, name)]));
      write('done', `${kept.name} kept as a way back`);
    });
  const problems = (name: string): string[] => {
    if (said.format === '' || said.sizeGb === '') return ['Say which file system the card has and how large it is: its properties on your computer tell.'];
    const others = imagesOn(names.map((entry) => ({ name: entry })), route).filter((entry) => entry.name !== name);
    const used = [...(board?.namesTaken ?? []), ...(board?.namesWritten ?? []).filter((entry) => entry !== written)];
    const judged = judgeCard({ format: said.format, sizeGb: said.sizeGb, files: [{ name }, ...others] }, used, route);
    return judged.map(({ because }) => `${upperFirst(because)}.`);
  };
  const images = imagesOn(names.map((name) => ({ name })), route).map(({ name }) => name);
  const renamed = names.filter((name) => /\.OLD$/i.test(name));
  return { folder, names, images, renamed, picked, written, busy, refused, pick, put, remove, keep, problems };
} // prettier-ignore
