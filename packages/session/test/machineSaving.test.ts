import { Refusal } from '@jolly/contract/refusal';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoMachine } from '../../core/test/fixtures/demo';
import { ServerGone } from '../src/presence';
import { ToldElsewhere } from '../src/toldElsewhere';
import { machineServer, named, openOn, wide } from './fixtures/twoWindows';

const gone = { here: false, since: 0 } as const;
const here = { here: true } as const;
/** The conflict says it. */
const toldElsewhere = (error: unknown) => {
  if (!(error instanceof ToldElsewhere)) throw error;
};

describe('a refusal', () => {
  /** A server that refuses every save in one way. */
  const refusing = (refusal: Refusal) => {
    const server = machineServer();
    return { ...server, client: { ...server.client, saveMachine: () => Promise.reject(refusal) } };
  };
  const there = {
    machine: demoMachine('plover'),
    version: 9,
    changedAt: '2026-11-26T09:00:00.000Z',
    at: 'shelf' as const,
  };

  it.each([
    ['for another reason, whatever comes with it', new Refusal('bad-value', 'no', { current: there })],
    ['as stale without what stands there', new Refusal('stale', 'no')],
  ])('%s is said and is no conflict', async (_, refusal) => {
    const { saving, shown, deeds } = await openOn(refusing(refusal));
    const before = shown.now();
    expect(await saving.save('Name', named('Two'))).toBe('no');
    expect(saving.conflict.now()).toBeUndefined();
    expect(shown.now()).toEqual(before);
    expect(deeds.now().done).toEqual([]);
  });

  it('as stale, with what stands there, is a conflict', async () => {
    const { saving } = await openOn(refusing(new Refusal('stale', 'no', { current: there })));
    await expect(saving.save('Name', named('Two'))).rejects.toThrow(ToldElsewhere);
    expect(saving.conflict.now()).toMatchObject({ label: 'Name', theirs: there, mine: { name: 'Two' } });
  });
});

describe('a change', () => {
  it('is saved over what the one before left, and is on the tape', async () => {
    const server = machineServer();
    const { saving, shown, tape } = await openOn(server);
    await Promise.all([saving.save('Name', named('Plover two')), saving.save('Travel', wide(240))]);
    expect(server.now()).toMatchObject({ version: 3, machine: { name: 'Plover two' } });
    expect(server.now().machine.frame.travel_mm.x).toEqual([0, 240]);
    expect(shown.now()).toEqual(server.now());
    expect(tape).toEqual(['Name', 'Travel']);
  });

  it('waits while the server is gone, is shown meanwhile, and is sent in order', async () => {
    const server = machineServer();
    const { saving, shown, outbox, presence, tape } = await openOn(server);
    presence.set(gone);
    expect(await saving.save('Name', named('Two'))).toBeUndefined();
    await saving.save('Travel', wide(240));
    expect(shown.now()?.machine.name).toBe('Two');
    expect([server.now().version, outbox.now().length]).toEqual([1, 2]);
    presence.set(here);
    await saving.send();
    expect(server.labels).toEqual(['Name', 'Travel']);
    expect([outbox.now().length, shown.now()?.version]).toEqual([0, 3]);
    expect(tape).toContain('Name (it had waited for the server)');
  });

  it('that waits is there again after a reload of the window', async () => {
    const server = machineServer();
    const { saving, presence, storage } = await openOn(server);
    presence.set(gone);
    await saving.save('Name', named('Two'));
    const again = await openOn(server, storage);
    expect(again.shown.now()?.machine.name).toBe('Two');
    await again.saving.send();
    expect(server.now().machine.name).toBe('Two');
  });

  it('whose answer was lost is not made twice and is no conflict', async () => {
    const server = machineServer();
    const { saving, outbox } = await openOn(server);
    server.ways.push('unheard');
    await saving.save('Name', named('Two'));
    expect([server.now().version, outbox.now().length]).toEqual([2, 1]);
    await saving.send();
    expect([server.now().version, outbox.now().length]).toEqual([2, 0]);
    expect(saving.conflict.now()).toBeUndefined();
  });

  it('that waits can be taken back, the last one first', async () => {
    const server = machineServer();
    const { saving, shown, presence, outbox, tape, turn } = await openOn(server);
    const before = shown.now()?.machine.name;
    presence.set(gone);
    await saving.save('Name', named('Two'));
    await saving.save('Travel', wide(240));
    await turn('undo');
    expect([shown.now()?.machine.name, outbox.now().length]).toEqual(['Two', 1]);
    await turn('undo');
    expect([shown.now()?.machine.name, outbox.now().length]).toEqual([before, 0]);
    // The server was not asked to undo something else.
    expect(tape.at(-1)).toBe('Undone: Name');
  });

  it('that may have arrived is taken back here, and that is said', async () => {
    const server = machineServer();
    const { saving, tape, turn, presence } = await openOn(server);
    server.ways.push('unheard');
    await saving.save('Name', named('Two'));
    presence.set(gone);
    await saving.save('Travel', wide(240));
    await turn('undo');
    expect(tape.at(-1)).toBe('Undone: Travel');
    await turn('undo');
    expect(tape.at(-1)).toMatch(/^Undone: Name; it may have reached the server/);
  });

  it('that was once on its way is told from one that never was, also when it waited first', async () => {
    const server = machineServer();
    const { saving, tape, turn, presence } = await openOn(server);
    presence.set(gone);
    await saving.save('Name', named('Two'));
    server.ways.push('lost');
    await saving.send();
    await turn('undo');
    expect(tape.at(-1)).toMatch(/it may have reached the server/);
  });

  it('that a server in trouble does not take goes on waiting, is told once, and can be taken back', async () => {
    const server = machineServer();
    const { saving, outbox, presence, tape, turn, shown } = await openOn(server);
    presence.set(gone);
    await saving.save('Name', named('Two'));
    await saving.save('Travel', wide(240));
    presence.set(here);
    server.ways.push('in trouble', 'in trouble');
    await saving.send();
    await saving.send();
    expect([outbox.now().length, saving.conflict.now()]).toEqual([2, undefined]);
    expect(tape.filter((line) => line === 'Still waits: Name: the disk is full')).toHaveLength(1);
    await turn('undo');
    expect([outbox.now().length, shown.now()?.machine.name]).toEqual([1, 'Two']);
    await saving.send();
    expect([outbox.now().length, server.now().machine.name, server.labels]).toEqual([0, 'Two', ['Name']]);
    // What comes later in the same trouble is told anew.
    presence.set(gone);
    await saving.save('Name', named('Three'));
    presence.set(here);
    server.ways.push('in trouble');
    await saving.send();
    expect(tape.at(-1)).toBe('Still waits: Name: the disk is full');
  });

  it('behind one that arrived is no conflict when the server goes away in between', async () => {
    const server = machineServer();
    const { saving, shown, outbox, presence } = await openOn(server);
    presence.set(gone);
    await saving.save('Name', named('Two'));
    await saving.save('Travel', wide(240));
    presence.set(here);
    server.ways.push('heard', 'lost');
    await saving.send();
    expect([server.labels, outbox.now().length]).toEqual([['Name'], 1]);
    await saving.send();
    expect([saving.conflict.now(), outbox.now().length]).toEqual([undefined, 0]);
    expect(shown.now()).toEqual(server.now());
  });

  it('that no machine file can hold is refused at once, and does not wait', async () => {
    const server = machineServer();
    const { saving, presence, outbox, shown } = await openOn(server);
    for (const there of [here, gone]) {
      presence.set(there);
      expect(await saving.save('Travel', wide(-5))).toMatch(/frame\.travel_mm\.x.* must rise/);
      // A number that is written as text is none: nobody turns it into one on the way.
      expect(await saving.save('Travel', wide('210' as never))).toMatch(/must be a number/);
    }
    expect([outbox.now().length, server.now().version, shown.now()?.version]).toEqual([0, 1, 1]);
  });

  it('that is refused for good is let go, and said', async () => {
    const server = machineServer();
    const { saving, shown, presence, outbox, tape } = await openOn(server);
    presence.set(gone);
    await saving.save('Copied', (machine) => ({ ...machine, id: 'other' }));
    presence.set(here);
    await saving.send();
    expect([outbox.now().length, shown.now()?.machine.id]).toEqual([0, 'plover']);
    expect(tape.at(-1)).toMatch(/^Not saved: Copied: another id/);
  });

  it('is taken back and made again by the version it led to, also one that had waited', async () => {
    const server = machineServer();
    const { saving, shown, presence, tape, turn, deeds } = await openOn(server);
    await saving.save('Name', named('Two'));
    presence.set(gone);
    await saving.save('Travel', wide(240));
    expect(deeds.now().done.at(-1)).toEqual({ kind: 'machine', label: 'Travel' });
    presence.set(here);
    await saving.send();
    expect(deeds.now().done.at(-1)).toEqual({ kind: 'machine', label: 'Travel', version: 3 });
    await turn('undo');
    await turn('undo');
    expect([shown.now()?.machine.name, deeds.now().done.length]).toEqual(['Plover', 0]);
    await turn('redo');
    expect([shown.now()?.machine.name, tape.at(-1)]).toEqual(['Two', 'Done again: Name']);
  });

  it('is never taken back by a window that did not make it, nor twice', async () => {
    const server = machineServer();
    const [mine, other] = [await openOn(server), await openOn(server)];
    await mine.saving.save('Name', named('Two'));
    await other.turn('undo');
    expect(server.now()).toMatchObject({ version: 2, machine: { name: 'Two' } });
    await server.client.undo({ id: 'plover', version: '2' });
    await mine.turn('undo');
    expect(mine.tape.at(-1)).toBe('Could not undo “Name”: it was taken back already');
    expect([mine.deeds.now().done.length, mine.shown.now()?.version]).toEqual([0, 3]);
  });

  it('that cannot be taken back for want of a server can be later', async () => {
    const server = machineServer();
    const { saving, turn, deeds } = await openOn(server);
    await saving.save('Name', named('Two'));
    const { undo } = server.client;
    server.client.undo = () => Promise.reject(new ServerGone());
    await turn('undo');
    expect(deeds.now().done).toHaveLength(1);
    server.client.undo = undo;
    await turn('undo');
    expect([deeds.now().done.length, server.now().version]).toEqual([0, 3]);
  });
});

describe('two windows', () => {
  it('a save over another one changes nothing and becomes a conflict with both sides', async () => {
    const server = machineServer();
    const [one, other] = [await openOn(server), await openOn(server)];
    await one.saving.save('Name', named('Two'));
    await expect(other.saving.save('Travel', wide(240))).rejects.toThrow(ToldElsewhere);
    expect(server.now().version).toBe(2);
    expect(other.saving.conflict.now()).toMatchObject({
      label: 'Travel',
      changes: ['Name'],
      theirs: { version: 2, machine: { name: 'Two' } },
    });
  });

  it('a merged machine is saved over theirs; letting go keeps theirs', async () => {
    const server = machineServer();
    const [one, other] = [await openOn(server), await openOn(server)];
    await one.saving.save('Name', named('Two'));
    await other.saving.save('Travel', wide(240)).catch(toldElsewhere);
    const theirs = other.saving.conflict.now()?.theirs.machine;
    if (!theirs) throw new Error('no conflict');
    expect(await other.saving.settle(wide(240)(theirs))).toBeUndefined();
    expect(server.now().machine).toMatchObject({ name: 'Two', frame: { travel_mm: { x: [0, 240] } } });
    expect([other.saving.conflict.now(), other.saving.settled.now()]).toEqual([undefined, 1]);
    await one.saving.save('Name again', named('Three')).catch(toldElsewhere);
    await one.saving.settle();
    expect(one.shown.now()).toEqual(server.now());
  });

  it('a merged machine that meets one more change, a server that is gone, or a refusal is not lost', async () => {
    const server = machineServer();
    const [one, other] = [await openOn(server), await openOn(server)];
    await one.saving.save('Name', named('Two'));
    await other.saving.save('Travel', wide(240)).catch(toldElsewhere);
    const mergedNow = () => {
      const theirs = other.saving.conflict.now()?.theirs.machine;
      if (!theirs) throw new Error('no conflict');
      return wide(240)(theirs);
    };
    const first = mergedNow();
    await one.saving.save('Name again', named('Three'));
    expect(await other.saving.settle(first)).toBeUndefined();
    expect(other.saving.conflict.now()).toMatchObject({
      label: 'Travel',
      mine: { frame: { travel_mm: { x: [0, 240] } } },
      theirs: { machine: { name: 'Three' } },
      changes: ['Name again'],
    });
    server.ways.push('in trouble');
    expect(await other.saving.settle(mergedNow())).toBe('the disk is full');
    expect([other.saving.conflict.now()?.label, other.saving.settled.now()]).toEqual(['Travel', 0]);
    server.ways.push('lost');
    expect(await other.saving.settle(mergedNow())).toBeUndefined();
    expect(other.saving.conflict.now()).toBeUndefined();
    expect(other.outbox.now().map(({ label }) => label)).toEqual(['Travel']);
    await other.saving.send();
    expect(server.now().machine).toMatchObject({ name: 'Three', frame: { travel_mm: { x: [0, 240] } } });
  });

  it('nothing is sent while a conflict waits to be settled, and nothing taken back from under it', async () => {
    const server = machineServer();
    const [one, other] = [await openOn(server), await openOn(server)];
    other.presence.set(gone);
    await other.saving.save('Travel', wide(240));
    await one.saving.save('Name', named('Two'));
    other.presence.set(here);
    await other.saving.send();
    expect(other.saving.conflict.now()?.label).toBe('Travel');
    await other.saving.send();
    await other.turn('undo');
    expect([server.now().version, other.outbox.now().length]).toEqual([2, 1]);
    expect(other.tape.at(-1)).toBe('Could not undo “Travel” yet: it is to be settled');
  });
});

describe('whatever happens on the way', () => {
  const step = fc.oneof(
    fc.record({ kind: fc.constant('save' as const), x: fc.integer({ min: 1, max: 400 }) }),
    fc.record({ kind: fc.constantFrom('lost' as const, 'unheard' as const, 'back' as const) }),
  );
  it('one window alone loses no change, makes none twice, and meets no conflict', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 25 }), async (steps) => {
        const server = machineServer();
        const { saving, shown, outbox, presence } = await openOn(server);
        let last: number | undefined;
        for (const [index, one] of steps.entries()) {
          if (one.kind === 'save') {
            last = one.x + index / 100;
            await saving.save(String(last), wide(last));
          } else if (one.kind === 'back') {
            presence.set(here);
            await saving.send();
          } else server.ways.push(one.kind);
        }
        server.ways.length = 0;
        presence.set(here);
        await saving.send();
        expect(saving.conflict.now()).toBeUndefined();
        expect(outbox.now()).toEqual([]);
        expect(new Set(server.labels).size).toBe(server.labels.length);
        expect(shown.now()).toEqual(server.now());
        if (last !== undefined) expect(server.now().machine.frame.travel_mm.x).toEqual([0, last]);
      }),
    );
  });
});
