import { type FileKind, kindOfFile, TELLING_BYTES } from '@jolly/session/droppedFile';
import { store } from '@jolly/session/store';
import { useEffect, useRef } from 'react';
import { useWatched } from '../../ui/useWatched';

export interface Dropped {
  kind: FileKind;
  file: File;
}

/** Files that were let go over the window and wait for their place to take them, the first one first. */
export const dropped = store<readonly Dropped[]>([]);

/** How long a place may take to be drawn, and to take what was laid for it. */
const LONGEST_MS = 8000;

/** Lays a file for its place. Resolves to whether a place took it; where none is there, it is taken away again. */
export function lay(entry: Dropped): Promise<boolean> {
  dropped.set([...dropped.now(), entry]);
  const waits = () => dropped.now().includes(entry);
  return new Promise((resolve) => {
    const end = setTimeout(() => {
      stop();
      resolve(!waits());
      dropped.set(dropped.now().filter((other) => other !== entry));
    }, LONGEST_MS);
    const stop = dropped.listen(() => {
      if (waits()) return;
      clearTimeout(end);
      stop();
      resolve(true);
    });
  });
}

/** What a file is, read from its beginning. */
export const kindOf = async (file: File): Promise<FileKind | undefined> =>
  kindOfFile(file.name, new Uint8Array(await file.slice(0, TELLING_BYTES).arrayBuffer()));

/** Takes the files of a kind that were let go anywhere, one after the other, as soon as this place is there. */
export function useDropped(kind: FileKind, take: (file: File) => unknown): void {
  const [first] = useWatched(dropped);
  const taken = useRef(take);
  taken.current = take;
  useEffect(() => {
    if (first?.kind !== kind) return;
    dropped.set(dropped.now().slice(1));
    taken.current(first.file);
  }, [first, kind]);
}
