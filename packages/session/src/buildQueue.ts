import type { Client } from '@jolly/contract/client';
import { whyOf } from '@jolly/core/text/whyOf';
import { store, type Watched } from './store';

/** A machine in the queue, and how far it is. */
export interface Queued {
  id: string;
  name: string;
  state: 'waits' | 'builds' | 'done' | 'failed' | 'dropped';
  why?: string;
}

export interface BuildQueue {
  rows: Watched<readonly Queued[]>;
  /** Builds one machine after another; one that fails does not keep the others. */
  run(machines: readonly { id: string; name: string }[]): Promise<void>;
  /** Takes out what has not begun. */
  drop(): void;
}

/** Builds of several machines, one behind the other. */
export function buildQueue(ports: {
  client: Pick<Client, 'startBuild' | 'build'>;
  moment: () => Promise<void>;
  /** A build has ended: what is listed of its machine is old. */
  built: () => void;
}): BuildQueue {
  const rows = store<readonly Queued[]>([]);
  const mark = (id: string, part: Partial<Queued>) =>
    rows.set(rows.now().map((row) => (row.id === id ? { ...row, ...part } : row)));

  async function buildOne(id: string): Promise<void> {
    mark(id, { state: 'builds' });
    try {
      let build = await ports.client.startBuild({ id });
      while (build.state === 'running') {
        await ports.moment();
        build = await ports.client.build({ id: build.id });
      }
      if (build.state === 'done') mark(id, { state: 'done' });
      else
        mark(id, { state: 'failed', why: build.state === 'failed' ? build.failed.message : `it was ${build.state}` }); // prettier-ignore
    } catch (error) {
      mark(id, { state: 'failed', why: whyOf(error) });
    }
    ports.built();
  }

  return {
    rows,
    async run(machines) {
      rows.set(machines.map((machine) => ({ ...machine, state: 'waits' })));
      for (const { id } of machines)
        if (rows.now().find((row) => row.id === id)?.state === 'waits') await buildOne(id);
    },
    drop: () =>
      rows.set(rows.now().map((row) => (row.state === 'waits' ? { ...row, state: 'dropped' } : row))),
  };
}
