import { type ComponentType, lazy } from 'react';

/** In the place of what could not be loaded. */
function NotLoaded() {
  return (
    <p className="soft">This picture could not be loaded. Load the page again when the server answers.</p>
  );
}

/**
 * A picture that is loaded after its station. Where the server has gone meanwhile, its place says so: the station, and what
 * runs in it, goes on.
 */
export const loadedLater = <Props,>(load: () => Promise<{ default: ComponentType<Props> }>) =>
  lazy(() => load().catch(() => ({ default: NotLoaded as ComponentType<Props> }))); // it takes nothing of what it is given
