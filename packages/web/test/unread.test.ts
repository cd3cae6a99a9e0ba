import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { describe, expect, it } from 'vitest';
import { unreadOf } from '../src/api/unread';

/** A view that wants to know something, as long as it is on the screen. */
function wanting(client: QueryClient, name: string, queryFn: () => Promise<string>, what?: string) {
  const observer = new QueryObserver(client, {
    queryKey: [name],
    queryFn,
    retry: false,
    ...(what !== undefined && { meta: { what } }),
  });
  const leave = observer.subscribe(() => undefined);
  return { leave, settled: () => observer.refetch() };
}
const refused = () => Promise.reject(new Error('the disk is broken'));

describe('what could not be found out', () => {
  it('is told as long as a view wants to know it, and asked for again', async () => {
    const client = new QueryClient();
    const unread = unreadOf(client);
    let answers = false;
    const view = wanting(client, 'one', () => (answers ? Promise.resolve('it') : refused()), 'which images may go');
    await view.settled();
    expect(unread.now()).toEqual([{ what: 'which images may go', because: 'the disk is broken' }]);
    expect(unread.now()).toBe(unread.now());
    answers = true;
    await unread.askAgain();
    expect(unread.now()).toEqual([]);
    view.leave();
  }); // prettier-ignore
  it('is not told of what a view says by itself, of what is known from before, and of what nobody looks at', async () => {
    const client = new QueryClient();
    const unread = unreadOf(client);
    client.setQueryData(['known'], 'from before');
    const views = [
      wanting(client, 'by itself', refused),
      wanting(client, 'known', refused, 'what is known'),
      wanting(client, 'left', refused, 'what was left'),
    ];
    await Promise.all(views.map(({ settled }) => settled()));
    expect(unread.now().map(({ what }) => what)).toEqual(['what was left']);
    views[2]?.leave();
    expect(unread.now()).toEqual([]);
    views.forEach(({ leave }) => leave());
  });
});
