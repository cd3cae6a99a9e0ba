import { whyOf } from '@jolly/core/text/whyOf';
import type { Context } from '../context';
import { forgetLapsed } from '../app/photos';
import { learnSpread } from '../sql/statistics';
import { copyDaily } from './copies';

const MINUTE_MS = 60_000;
const DAY_MS = 24 * 60 * MINUTE_MS;

/**
 * What is done by the clock: a daily copy of the database, its rows counted anew each day and after a start, and removed
 * photos that nobody wants back.
 */
export function startChores(context: Context): { first: () => void; stop: () => Promise<void> } {
  let stopped = false;
  let learnt = -Infinity;
  let under: Promise<unknown> = Promise.resolve();
  const once = async () => {
    if (stopped) return;
    await forgetLapsed(context);
    await copyDaily(context.data, context.db, context.now());
    if (context.now().getTime() - learnt < DAY_MS) return;
    learnt = context.now().getTime();
    await learnSpread(context.db);
  };
  const next = () => {
    under = under
      .then(once)
      .catch((error: unknown) => console.error(`what is done by the clock failed: ${whyOf(error)}`));
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
