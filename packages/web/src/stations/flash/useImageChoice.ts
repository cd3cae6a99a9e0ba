import type { ForeignImage } from '@jolly/contract/endpoints/board';
import type { DoneBuild } from '@jolly/contract/endpoints/builds';
import type { Kept } from '@jolly/contract/endpoints/kept';
import { useQuery } from '@tanstack/react-query';
import { newestDone, otherBoardOf } from '@jolly/session/newestBuild';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useStation } from '../../app/frame/StationContext';
import { useJob } from '../../job/JobProvider';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';

/** An image that may be written, wherever it comes from. */
export interface ImageOffer {
  id: string;
  label: string;
  /** What speaks for and against it. */
  told: string;
  image: { hash: string; name: string } | { kept: number };
  /** The file's name, as it is told. */
  name: string;
  /** Missing for an image that was not built here. */
  build?: DoneBuild & { machineVersion: number };
  /** An earlier build, flashed again on purpose. */
  again?: true;
}

/** What was built, as the checks of a flash call it. */
export const builtImage = ({ imageHash, buildId, sizes }: DoneBuild) => ({
  hash: imageHash,
  name: `Build ${buildId}`,
  sizes,
});

/** The images that may go onto the board at hand: the newest build, one that is flashed again, what was kept of it, others' files. */
export function useImageChoice(keptFirst: boolean) {
  const { machine, board, facts } = useWorkbench();
  const { builds } = useStation();
  const { wayBack } = useJob();
  const [search] = useSearchParams();
  const [chosen, choose] = useState<string>();
  const foreign = useForeignImages(machine.id);
  const asked = search.get('image');
  const done = builds.filter((build) => build.state === 'done' && build.clearedAt === undefined);
  const again = done.find((build) => build.id === search.get('build') || (build.state === 'done' && build.imageHash === asked)); // prettier-ignore
  const newest = newestDone(done, board);
  const other = again?.state === 'done' ? otherBoardOf(again, board, facts.catalogue) : undefined;
  const ofBoard = ({ board: from }: Kept) => from.id === board.id && from.revision === board.revision;
  const images = (wayBack?.kept ?? []).filter(({ kind, verdict }) => kind === 'image' && verdict !== 'empty');
  const kept = images.filter(ofBoard).map((entry): ImageOffer => ({
    id: `kept:${entry.id}`,
    label: `${entry.name}, kept ${whenOf(entry.at)}`,
    told: `${entry.bytes.toLocaleString('en')} bytes; ${entry.evidence.join('; ')}`,
    image: { kept: entry.id },
    name: entry.name,
  })); // prettier-ignore
  const offers: ImageOffer[] = [
    ...(again?.state === 'done'
      ? [
          {
            ...builtOffer(again, other === undefined ? 'an earlier build' : `for another board: ${other}`),
            again: true as const,
          },
        ]
      : []),
    ...(newest && newest.id !== again?.id ? [builtOffer(newest, 'the newest build')] : []),
    ...kept,
    ...foreign.map((entry): ImageOffer => ({
      id: entry.hash,
      label: `${entry.name}, made by somebody else`,
      told: `${entry.bytes.toLocaleString('en')} bytes; ${entry.evidence.join('; ')}`,
      image: { hash: entry.hash, name: entry.name },
      name: entry.name,
    })),
  ];
  const isAsked = ({ id, image }: ImageOffer) => id === asked || ('hash' in image && image.hash === asked);
  if (asked !== null && !offers.some(isAsked))
    offers.push({ id: asked, label: `Image ${asked.slice(0, 12)} of the logbook`, told: 'as it was flashed then', image: { hash: asked, name: `${asked.slice(0, 12)}.bin` }, name: `image ${asked.slice(0, 12)}` }); // prettier-ignore
  const first = keptFirst ? (kept[0] ?? offers[0]) : offers[0];
  return {
    offers,
    choose,
    offer: offers.find(({ id }) => id === chosen) ?? offers.find(isAsked) ?? first,
    known: wayBack !== undefined,
    elsewhere: images.filter((entry) => !ofBoard(entry)),
  };
}

const builtOffer = (
  build: DoneBuild & { id: string; endedAt: string; machineVersion: number },
  word: string,
): ImageOffer => ({
  id: build.id,
  label: `Build ${build.buildId}, ${word}`,
  told: `${build.sizes.flashBytes.toLocaleString('en')} bytes, ${whenOf(build.endedAt)}`,
  image: { hash: build.imageHash, name: `${build.buildId}.bin` },
  name: `build ${build.buildId}`,
  build,
});

/** Images of somebody else that were taken in while this window is open. */
export function useForeignImages(machineId: string): ForeignImage[] {
  return (
    useQuery<ForeignImage[]>({
      queryKey: ['foreign', machineId],
      queryFn: () => Promise.resolve([]),
      staleTime: Infinity,
      gcTime: Infinity,
    }).data ?? []
  );
}
