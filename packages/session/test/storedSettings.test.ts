import { Refusal } from '@jolly/contract/refusal';
import { describe, expect, it } from 'vitest';
import { outboxes } from '../src/outbox';
import { ServerGone } from '../src/presence';
import { storedSettings } from '../src/storedSettings';
import { memory } from './fixtures/twoWindows';

function opened(...answers: ('kept' | 'gone' | 'refused' | 'in trouble')[]) {
  const stored: string[] = [];
  const said: string[] = [];
  const outbox = outboxes(memory()).open<string>('store:plover');
  const settings = storedSettings('plover', {
    client: {
      putStore: (_at, { store }) => {
        const answer = answers.shift() ?? 'kept';
        if (answer === 'gone') return Promise.reject(new ServerGone());
        if (answer === 'in trouble') return Promise.reject(new Refusal('disk-full', 'the disk is full'));
        if (answer === 'refused') return Promise.reject(new Refusal('bad-value', 'too long'));
        stored.push(store);
        return Promise.resolve({ ok: true });
      },
    },
    outbox,
    kept: () => undefined,
    say: (text) => said.push(text),
  });
  return { ...settings, outbox, stored, said };
}

describe('what the firmware stores', () => {
  it('waits while the server is gone, and is sent once', async () => {
    const { keep, send, outbox, stored } = opened('gone');
    await keep('first');
    expect(outbox.now()).toEqual(['first']);
    await send();
    await send();
    expect([stored, outbox.now()]).toEqual([['first'], []]);
  });
  it('is the newest: what is stored while another is on its way is sent after it', async () => {
    const { keep, outbox, stored } = opened();
    const older = keep('older');
    await Promise.resolve();
    await keep('newer');
    await older;
    expect([stored, outbox.now()]).toEqual([['older', 'newer'], []]);
  });
  it('waits, the newest of it, and an older one that was under way does not clear it', async () => {
    const { keep, send, outbox, stored } = opened('kept', 'gone');
    const older = keep('older');
    await Promise.resolve();
    await keep('newer');
    await older;
    expect(outbox.now()).toEqual(['newer']);
    await send();
    expect(stored).toEqual(['older', 'newer']);
  });
  it('waits where the disk is full, is told once, and nothing goes on as if it were kept', async () => {
    const { keep, send, settled, outbox, stored, said } = opened('in trouble', 'in trouble');
    await keep('tuned');
    await expect(settled()).rejects.toThrow('not kept yet');
    expect([outbox.now(), said]).toEqual([
      ['tuned'],
      ['What the board stored is not kept yet: the disk is full'],
    ]);
    await send();
    expect([outbox.now(), stored]).toEqual([[], ['tuned']]);
  });
  it('is settled when it is kept, and says so when it is not', async () => {
    const { keep, settled, stored } = opened('kept', 'gone', 'gone');
    void keep('kept');
    await settled();
    expect(stored).toEqual(['kept']);
    void keep('waits');
    await expect(settled()).rejects.toThrow('not kept yet');
  });
  it('is let go and said when it is refused', async () => {
    const { keep, outbox, said } = opened('refused');
    await keep('bad');
    expect([outbox.now(), said]).toEqual([[], ['What the board stored is not kept: too long']]);
  });
});
