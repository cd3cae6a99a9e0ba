import { existsSync, readFileSync } from 'node:fs';
import { applyEdits, overrideEdit } from '@jolly/core/machine/edit';
import type { Machine } from '@jolly/core/machine/machine';
import { call } from '../product';
import { must, type Trial } from '../trial';

const MACHINES = ['plover', 'bittern', 'dunlin'];

/** Builds started, cancelled, and robbed of their compiler: each ends in a state that is true, and the next builds. */
export const buildsAndCancels: Trial = {
  name: 'builds, cancels, dead compilers',
  share: 2,
  async attempt({ chance, house }) {
    const { address, pid } = house;
    const running: string[] = [];
    for (let i = chance.whole(1, 5); i > 0; i -= 1) {
      const id = chance.one(MACHINES);
      await somethingToCompile(address, id, chance.next());
      const started = await call(address, 'POST', `/machines/${id}/builds`);
      must(started.status === 200 || started.status === 409, `a build was answered with ${started.status}`);
      if (started.status === 200) running.push(started.body.id);
    }
    if (chance.next() < 0.3) killACompiler(pid, chance.next());
    await new Promise((resolve) => setTimeout(resolve, chance.whole(0, 1200)));
    const cancelled = running.filter(() => chance.next() < 0.5);
    const answers = await Promise.all(cancelled.map((id) => call(address, 'POST', `/builds/${id}/cancel`)));
    must(
      answers.every(({ status }) => status === 200 || status === 409),
      'a cancel was answered oddly',
    );
    for (const id of running) {
      await (await fetch(`${address}/api/builds/${id}/events`)).text();
      const { state } = (await call(address, 'GET', `/builds/${id}`)).body as { state: string };
      must(['done', 'failed', 'cancelled'].includes(state), `a build is ${state} when it has ended`);
      must(
        state !== 'failed',
        `a build failed: ${JSON.stringify((await call(address, 'GET', `/builds/${id}`)).body.failed)}`,
      );
    }
  },
};

/** What was built before is not compiled again: another lift of the head is. One that others change meanwhile is left. */
async function somethingToCompile(address: string, id: string, share: number): Promise<void> {
  const { machine, version } = (await call(address, 'GET', `/machines/${id}`)).body as {
    machine: Machine;
    version: number;
  };
  const lift = overrideEdit('park.lift', Math.round(500 + share * 1000) / 100, 'another for each build');
  await call(address, 'PUT', `/machines/${id}`, { version, machine: applyEdits(machine, [lift]) });
}

function killACompiler(pid: number, share: number): void {
  const path = `/proc/${pid}/task/${pid}/children`;
  if (!existsSync(path)) return;
  const children = readFileSync(path, 'utf8').trim().split(' ').filter(Boolean);
  const one = children[Math.floor(share * children.length)];
  if (one) process.kill(Number(one), 'SIGKILL');
}

/** Streams of events opened and dropped, in the middle and at the end. */
export const eventStreams: Trial = {
  name: 'event streams opened and dropped',
  share: 1,
  async attempt({ chance, house }) {
    const { address } = house;
    const started = await call(address, 'POST', '/machines/dunlin/builds');
    must(started.status === 200, `a build was answered with ${started.status}`);
    const { id } = started.body as { id: string };
    const followers = Array.from({ length: chance.whole(5, 25) }, async () => {
      const stop = new AbortController();
      setTimeout(() => stop.abort(), chance.whole(0, 400));
      const text = await fetch(`${address}/api/builds/${id}/events`, { signal: stop.signal })
        .then((reply) => reply.text())
        .catch(() => 'dropped');
      must(text === 'dropped' || text.includes('event: ended'), 'a stream ended without its end');
    });
    await Promise.all(followers);
    await (await fetch(`${address}/api/builds/${id}/events`)).text();
    must((await call(address, 'GET', '/health')).status === 200, 'the house fell');
  },
};
