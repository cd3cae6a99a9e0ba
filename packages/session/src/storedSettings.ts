import type { Client } from '@jolly/contract/client';
import type { Outbox } from './outbox';
import { ServerGone } from './presence';
import { whyOf } from '@jolly/core/text/whyOf';

export interface StoredSettingsPorts {
  client: Pick<Client, 'putStore'>;
  /** Holds at most one: the newest that the firmware stored. */
  outbox: Outbox<string>;
  kept: () => void;
  say: (text: string) => void;
}

/** Keeps what the firmware stores. While the server is gone the newest of it waits. */
export function storedSettings(id: string, { client, outbox, kept, say }: StoredSettingsPorts) {
  async function keep(store: string): Promise<void> {
    try {
      await client.putStore({ id }, { store });
      // Something newer may wait by now.
      if (outbox.now()[0] === store) outbox.put([]);
      kept();
    } catch (error) {
      if (error instanceof ServerGone) return outbox.put([store]);
      outbox.put([]);
      say(`What the board stored is not kept: ${whyOf(error)}`);
    }
  }
  return {
    keep,
    /** Sends what waits, as soon as the server is there. */
    async send(): Promise<void> {
      const [waiting] = outbox.now();
      if (waiting !== undefined) await keep(waiting);
    },
  };
}
