import type { Client } from '@jolly/contract/client';
import type { Outbox } from './outbox';
import { isUnjudged, ServerGone } from './presence';
import { inTurn } from './store';
import { sayOnce } from './sayOnce';
import { whyOf } from '@jolly/core/text/whyOf';

export interface StoredSettingsPorts {
  client: Pick<Client, 'putStore'>;
  /** Holds at most one: the newest that the firmware stored. */
  outbox: Outbox<string>;
  kept: () => void;
  say: (text: string) => void;
}

/**
 * Keeps what the firmware stores. One is sent at a time, always the newest, so that an older one
 * never lands on it; while the server is gone it waits.
 */
export function storedSettings(id: string, { client, outbox, kept, say }: StoredSettingsPorts) {
  const turn = inTurn();
  const { told, fine } = sayOnce(say);

  async function sendNewest(): Promise<void> {
    const [waiting] = outbox.now();
    if (waiting === undefined) return;
    // Something newer may wait by the time it is answered.
    const done = () => outbox.now()[0] === waiting && outbox.put([]);
    try {
      await client.putStore({ id }, { store: waiting });
      done();
      fine();
      kept();
    } catch (error) {
      if (error instanceof ServerGone) return;
      if (isUnjudged(error)) return told(`What the board stored is not kept yet: ${whyOf(error)}`);
      done();
      say(`What the board stored is not kept: ${whyOf(error)}`);
    }
  }
  /** Sends what waits, after what is on its way. */
  const send = () => turn(sendNewest);
  return {
    send,
    keep(store: string): Promise<void> {
      outbox.put([store]);
      return send();
    },
    /** Nothing that the firmware stored is on its way any more; refuses while something still waits. */
    async settled(): Promise<void> {
      await send();
      if (outbox.now().length > 0) throw new Error('what the board stored last is not kept yet');
    },
  };
}
