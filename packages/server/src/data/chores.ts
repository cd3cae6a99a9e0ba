import type { Context } from '../context';
import { forgetLapsed } from '../app/photos';
import { copyDaily } from './copies';

const MINUTE_MS = 60_000;

/** What is done by the clock: a daily copy of the database, and removed photos that nobody wants back. */
export function startChores(context: Context): { first: () => void; stop: () => Promise<void> } {
  let stopped = false;
  let under: Promise<unknown> = Promise.resolve();
  const once = async () => {
    if (stopped) return;
    await forgetLapsed(context);
    await copyDaily(context.data, context.db, context.now());
  };
  const next = () => {
    under = under
      .then(once)
      .catch((error: Error) => console.error(`what is done by the clock failed: ${error.message}`));
  };
  const timer = setInterval(next, MINUTE_MS);
  return {
    first: next,
    async stop() {
      stopped = true;
      clearInterval(timer);
      await under;
    },
  };
}
