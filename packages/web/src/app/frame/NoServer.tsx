import { useWatched } from '../../ui/useWatched';
import { appWindow } from '../window';
import { timeOf } from '../../ui/when';
import css from './NoServer.module.css';

/** Says that the server does not answer, since when, and what that means for what is on the screen. */
export function NoServer({ waiting = 0, running = false }: { waiting?: number; running?: boolean }) {
  const presence = useWatched(appWindow.presence);
  if (presence.here && waiting === 0) return null;
  const held =
    waiting === 0
      ? ''
      : waiting === 1
        ? ' One change waits here and is sent when it is back.'
        : ` ${waiting} changes wait here and are sent in order when it is back.`;
  if (presence.here)
    return (
      <p className={css.gone} role="status">
        {waiting === 1 ? 'One change waits' : `${waiting} changes wait`} for the server, and{' '}
        {waiting === 1 ? 'is' : 'are'} sent until it has {waiting === 1 ? 'it' : 'them'}. If that lasts, the
        tape says why.
      </p>
    );
  return (
    <p className={css.gone} role="status">
      <b>The server does not answer</b> since {timeOf(new Date(presence.since).toISOString())}. What is on the
      screen stays, as it was last known.{held}
      {running && ' The virtual bench goes on in this window, and Stop works.'} Start Jolly Cog again where it
      ran; nothing needs to be loaded anew.
    </p>
  );
}
