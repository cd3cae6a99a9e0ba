import type { GeneratedFile } from '@jolly/core/build/generatedFile';
import { compareFiles, type ComparedFile } from '@jolly/core/build/fileDifferences';
import { skipToken, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { askedOf } from '../../api/asked';
import { api, keptText } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { keptReport } from '../../job/keptReport';
import { useJob } from '../../job/JobProvider';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';

/** A state that the generated files can be held against. */
export interface Earlier {
  id: string;
  /** What stands behind it now: what is flashed is another build after the next flash. */
  of: string;
  title: string;
  load: () => Promise<GeneratedFile[]>;
}

const EDITS_SHOWN = 40;

/** Every earlier state that is known: what is flashed, the old machine, its settings report, each build and change. */
export function useEarlier(): Earlier[] {
  const { core, machine } = useWorkbench();
  const { builds, board } = useStation();
  const { stored, wayBack } = useJob();
  const edits = useQuery(askedOf.edits(machine.id));
  return useMemo(() => {
    const ofBuild = (id: string) => async () => (await api.buildInput({ id })).files;
    const done = builds.flatMap((build) => (build.state === 'done' ? [build] : []));
    const flashed = done.find(({ imageHash }) => imageHash === board?.imageHash);
    const before = stored?.job.before;
    const dump = keptReport(wayBack, before ?? machine);
    return [
      ...(flashed
        ? [
            {
              id: 'flashed',
              of: flashed.id,
              title: `what is flashed, build ${flashed.buildId}`,
              load: ofBuild(flashed.id),
            },
          ]
        : []),
      ...(stored && before
        ? [
            {
              id: 'old',
              of: String(stored.id),
              title: 'the machine before this job',
              load: () => core.filesOf(before),
            },
          ]
        : []),
      ...(dump
        ? [
            {
              id: 'dump',
              of: String(dump.id),
              title: `the settings report ${dump.name}, kept ${whenOf(dump.at)}`,
              load: async () => core.filesOfDump(machine, await keptText(machine.id, dump.id)),
            },
          ]
        : []),
      ...done.map((build) => ({
        id: `build-${build.id}`,
        of: build.id,
        title: `build ${build.buildId}, ${whenOf(build.startedAt)}`,
        load: ofBuild(build.id),
      })),
      ...(edits.data ?? []).slice(0, EDITS_SHOWN).map((edit) => ({
        id: `edit-${edit.id}`,
        of: String(edit.id),
        title: `before “${edit.label}”, ${whenOf(edit.at)}`,
        load: async () => core.filesOf((await api.edit({ id: machine.id, number: String(edit.id) })).before),
      })),
    ];
  }, [core, machine, builds, board, stored, wayBack, edits.data]);
}

/** How far the files are held against an earlier state: not known yet, failed, and nothing differs are three things. */
export type Compared = { files: ComparedFile[] } & (
  { state: 'alone' | 'pending' | 'known' } | { state: 'failed'; because: string }
);

/** The generated files, held against an earlier state where one is chosen. */
export function useComparison(against: Earlier | undefined): Compared {
  const { files, machine, version } = useWorkbench();
  const was = useQuery({
    queryKey: ['earlier-files', machine.id, against?.id, against?.of, version],
    queryFn: against ? () => against.load() : skipToken,
    staleTime: Infinity,
  });
  const earlier = against && was.data;
  const compared = useMemo(() => compareFiles(earlier ?? files, files), [earlier, files]);
  if (!against) return { files: compared, state: 'alone' };
  if (earlier) return { files: compared, state: 'known' };
  return was.error
    ? { files: compared, state: 'failed', because: was.error.message }
    : { files: compared, state: 'pending' };
}
