import { useWatched } from '../../ui/useWatched';
import { appWindow } from '../window';
import { Whole } from './Whole';

/** Stands where a machine would, when it could not be opened; while the server is gone that is no verdict. */
export function NotOpened({ why }: { why: string }) {
  return useWatched(appWindow.presence).here ? (
    <Whole title="This machine cannot be opened" text={why} back />
  ) : (
    <Whole
      title="The server does not answer"
      text="It is looked for every second. This page goes on by itself when it is back; changes that wait in this window are kept."
      back
    />
  );
}
