import { newestDone } from '@jolly/session/newestBuild';
import { Link } from 'react-router';
import { useStation } from '../../app/frame/StationContext';
import { holdsWords } from '../flash/holdsWords';
import { useFlashes } from '../flash/useFlashes';
import { whenOf } from '../../ui/when';
import { useWorkbench } from '../../workbench/Workbench';
import css from './LogbookStation.module.css';

/** Which image is on it, from which settings, at one glance. */
export function WhatRuns() {
  const workbench = useWorkbench();
  const { board, builds } = useStation();
  const flashes = useFlashes().data ?? [];
  if (!board) return null;
  const { image, imageHash } = board;
  if (!image)
    return (
      <p className={css.runs}>
        {imageHash === null
          ? 'Which image is on its board is not known: none was flashed here.'
          : `Its board holds ${holdsWords(board)}. What it was built from is not known.`}
      </p>
    );
  const build = builds.find((one) => one.state === 'done' && one.imageHash === imageHash);
  const flashed = flashes.find((one) => one.imageHash === imageHash);
  const newest = newestDone(builds, workbench.board);
  const later = newest && newest.imageHash !== imageHash ? newest : undefined;
  return (
    <p className={css.runs}>
      <b>{image.name}</b> runs on it, build <b className="figures">{image.buildId}</b>
      {flashed && `, flashed ${whenOf(flashed.at)}`}.{' '}
      {build
        ? `It was built ${whenOf(build.startedAt)}${build.label ? ` (“${build.label}”)` : ''} from `
        : 'It was not built here; from which settings is not known. '}
      {build && (
        <Link to={`/machines/${workbench.machine.id}/logbook?view=beside&one=${build.id}`}>
          these settings
        </Link>
      )}
      {build && '. '}
      {later && `You have built ${later.buildId} since; it is not flashed.`}
    </p>
  );
}
