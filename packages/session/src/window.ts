import { type Client, makeClient } from '@jolly/contract/client';
import { type Outboxes, outboxes, type WindowStorage } from './outbox';
import { type Presence, type PresencePorts, serverWatch } from './presence';
import type { Watched } from './store';

/** What one window works with, whichever machine it shows. */
export interface AppWindow {
  client: Client;
  presence: Watched<Presence>;
  outboxes: Outboxes;
  watch(): () => void;
}

/** Opens what a window works with, over what it runs in. */
export function openWindow(ports: PresencePorts & { storage: WindowStorage }): AppWindow {
  const { presence, reach, watch } = serverWatch(ports);
  return { client: makeClient(reach), presence, outboxes: outboxes(ports.storage), watch };
}
