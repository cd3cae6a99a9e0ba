import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { missingPlace } from '../src/machine/landing';
import type { Change } from '../src/ripple/change';
import type { Consequence } from '../src/ripple/consequence';
import { advise } from '../src/ripple/advice';
import { applyEdits, overrideEdit } from '../src/machine/edit';
import { headLeadMm } from '../src/ripple/preparation';
import { mergeThreeWay } from '../src/tree/mergeThreeWay';
import { ripple } from '../src/ripple/ripple';
import { type Done, followsAlready, jobSchema, toPutBack } from '../src/ripple/job';
import { replan } from '../src/ripple/replan';
import { type Facts, resolve } from '../src/machine/facts';
import { derive } from '../src/settings/derive';
import { write } from '../src/build/write';
import { demoMachine, factsOf, installed, jumper } from './fixtures/demo';
import { changes, EVERY_KIND, ploverJob, tailOf } from './fixtures/job';

const { catalogue } = installed;
const job = ploverJob();
const before = factsOf(job.before);
const tail = ripple(before, job.changes);

const impossible = (list: Change[]) =>
  ripple(before, list).contradictions.filter(({ id }) => id === 'impossible');

describe('a job that is to be done with another board', () => {
  const onto = ({ id, revision }: { id: string; revision: string }) =>
    job.changes.map((change) => (change.kind === 'new-board' ? { ...change, board: id, revision } : change));
  const others = catalogue.boards.filter(
    ({ id, revision }) => id !== job.before.board.id || revision !== job.before.board.revision,
  );
  it.each(others)('places chosen on the one before are found anew: $id $revision', (board) => {
    expect(impossible(onto(board))).toEqual([]);
    const { harness } = ripple(before, onto(board)).after;
    for (const landing of Object.values(harness)) expect(missingPlace(board, landing)).toBeUndefined();
  });
  it('or with the one it has', () => {
    expect(impossible(job.changes.filter(({ kind }) => kind !== 'new-board'))).toEqual([]);
  });
  describe('after it was wired by hand for the one before', () => {
    const wired = applyEdits(ripple(before, job.changes).after, [
      { path: ['harness', 'part-fan'], value: { leads: { supply: 'FAN-3.1', control: 'FAN-3.2' } } },
      jumper('STALL-M1', 'bridged'),
      { path: ['pins', 'x-switch'], value: { pin: 22, because: 'by hand' } },
      overrideEdit('speed.x', 140, 'by hand'),
    ]);
    const byHand = ['landing of part-fan', 'jumper STALL-M1', 'pin of x-switch'];
    it.each(others)('what is the board’s own goes with it, and is told: $id $revision', (board) => {
      const { machine, kept, left } = replan(
        wired,
        { before: job.before, from: job.changes, to: onto(board) },
        catalogue,
      );
      expect('problems' in resolve(machine, catalogue)).toBe(false);
      expect(machine.settings['speed.x']).toMatchObject({ value: 140 });
      const stays = board.id === 'alder-a32';
      expect(left).toEqual(stays ? [] : byHand);
      expect(kept).toEqual([]);
      if (stays) expect(machine.harness['part-fan']).toEqual(wired.harness['part-fan']);
    });
    it('what was set comes back with its board, over a board between', () => {
      const harrow = onto({ id: 'harrow-h6', revision: 'A' });
      const away = replan(wired, { before: job.before, from: job.changes, to: harrow }, catalogue);
      const further = replan(away.machine, { before: job.before, from: harrow, to: [], wired: away.wired }, catalogue); // prettier-ignore
      const back = replan(further.machine, { before: job.before, from: [], to: job.changes, wired: further.wired }, catalogue); // prettier-ignore
      expect(back.machine).toEqual(wired);
      expect(back.wired).toEqual({});
      const { error } = jobSchema().validate({ ...job, wired: away.wired });
      expect(error).toBeUndefined();
    });
    it('the job is abandoned all the same', () => {
      const { machine, left } = replan(wired, { before: job.before, from: job.changes, to: [] }, catalogue);
      expect(machine.board).toEqual(job.before.board);
      expect(machine.harness).toEqual(job.before.harness);
      expect(left).toEqual(byHand);
    });
  });
  it('keeps a place that was chosen and is there', () => {
    const { after } = ripple(before, job.changes);
    expect(after.harness['hotend-fan']).toEqual({ leads: { supply: 'FAN-2.1', control: 'FAN-2.2' } });
  });
});

describe('whether to do it at all', () => {
  const plover = (...told: never[]) => tailOf('plover', ...told);
  it('a newer version alone, or a new plate of the same kind, is left alone', () => {
    const version = changes({ kind: 'kit-version', kit: 'lantern', version: '0.2.0' });
    expect(advise('newer', version, undefined).verdict).toBe('leave it alone');
    expect(advise('bug', version, undefined).verdict).toBe('go');
    expect(advise('part', [], undefined).verdict).toBe('leave it alone');
    expect(advise('part', changes({ kind: 'plate' }), plover({ kind: 'plate' } as never)).verdict).toBe(
      'leave it alone',
    );
  });
  it('a new board may be flashed on the desk first', () => {
    expect(advise('part', job.changes, tail).deskFirst).toContain('before it is wired');
    expect(
      advise('part', changes({ kind: 'nozzle' }), plover({ kind: 'nozzle' } as never)).deskFirst,
    ).toBeUndefined();
  });
  it('a nozzle is worth a job, but no flash', () => {
    const advice = advise('part', changes({ kind: 'nozzle' }), plover({ kind: 'nozzle' } as never));
    expect(advice).toMatchObject({ verdict: 'go' });
    expect(advice.noFlash).toContain('Do not flash');
  });
  it('of what cannot be done nothing is said of the image', () => {
    const none = changes({ kind: 'kit-version', kit: 'lantern', version: '9.9.9' });
    const after = ripple(before, none);
    expect(after.contradictions).toHaveLength(1);
    expect(advise('bug', none, after).noFlash).toBeUndefined();
  });
});

/** Any list of changes, each kind at most once, in any order. */
const someChanges = fc
  .subarray(EVERY_KIND.map((_, index) => index))
  .chain((picked) => fc.shuffledSubarray(picked, { minLength: picked.length, maxLength: picked.length }))
  .map((picked) => changes(...picked.map((index) => EVERY_KIND[index]!)));
const machines = ['plover', 'bittern', 'dunlin'].map((id) => factsOf(demoMachine(id)));
const someMachine = fc.constantFrom(before, ...machines);

describe('without a new image', () => {
  /** What the compiler reads: remarks apart, which say where a line comes from. */
  const compiled = (machine: Facts['machine']) => {
    const facts = factsOf(machine);
    return write(facts, derive(facts)).map(({ path, lines }) => [path, lines.map(({ text }) => text.replace(/\/\*.*?\*\//g, '').trim())]); // prettier-ignore
  };
  it('nothing that the compiler reads is other than it was', () => {
    const oneOrTwo = fc.uniqueArray(fc.constantFrom(...EVERY_KIND), { minLength: 1, maxLength: 2 }).map((picked) => changes(...picked)); // prettier-ignore
    fc.assert(
      fc.property(someMachine, oneOrTwo, (facts, list) => {
        const { flash, after } = ripple(facts, list);
        fc.pre(!flash);
        expect(compiled(after)).toEqual(compiled(facts.machine));
      }),
      { numRuns: 120 },
    );
  });
  it('no lead is moved to another pin: what sits elsewhere is dead with the image of before', () => {
    const landing = { leads: { supply: 'FAN-3.1', control: 'FAN-3.2' } };
    const moved = changes({ kind: 'rewire', part: 'part-fan', landing });
    const after = ripple(factsOf(demoMachine('plover')), moved);
    expect(after.flash).toBe(true);
    expect(advise('bug', moved, after).noFlash).toBeUndefined();
  });
  it('a switch that is moved asks to flash before anything moves; a fan does not', () => {
    const asks = (part: string, leads: Record<string, string>) =>
      tailOf('plover', ...changes({ kind: 'rewire', part, landing: { leads } })).consequences.some(
        ({ id }) => id === 'caution:flash-first',
      );
    expect(asks('x-switch', { ground: 'STOP-Z.2', signal: 'STOP-Z.3' })).toBe(true);
    expect(asks('part-fan', { supply: 'FAN-3.1', control: 'FAN-3.2' })).toBe(false);
  });
});

describe('taking a change away', () => {
  it('leaves no consequence of it behind, and the rest as if it had never been', () => {
    fc.assert(
      fc.property(someMachine, someChanges, fc.nat(), (facts, list, pick) => {
        const gone = list[pick % Math.max(1, list.length)];
        const rest = list.filter((change) => change !== gone);
        const after = ripple(facts, rest);
        expect(after.consequences.some((entry) => entry.causes.includes(gone?.id ?? ''))).toBe(false);
        // One change of a kind: in whichever order they were thought of, the tail is the same.
        expect(ripple(facts, [...rest].reverse())).toEqual(after);
      }),
      { numRuns: 60 },
    );
  });
  it('what only that change would bring is not so before it is taken over', () => {
    const [first, ...others] = job.changes.map(({ id }) => id);
    const already = (taken: string[]) => followsAlready(tail.consequences, { taken }, 'calibration');
    expect(already([])).toEqual([]);
    const some = already([first!]);
    expect(some.length).toBeGreaterThan(0);
    for (const { kind, causes } of some)
      expect([kind, causes]).toEqual(['calibration', expect.arrayContaining([first])]);
    expect(already([first!, ...others])).toEqual(
      tail.consequences.filter(({ kind }) => kind === 'calibration'),
    );
  });
  it('puts the machine file back, and keeps what was set by hand since', () => {
    fc.assert(
      fc.property(someMachine, someChanges, fc.boolean(), (facts, list, edited) => {
        const { machine } = facts;
        const { contradictions } = ripple(facts, list);
        const possible = list.filter(
          (change) =>
            !contradictions.some((entry) => entry.id === 'impossible' && entry.changes.includes(change.id)),
        );
        const own = overrideEdit('probe.clear', 11, 'set by hand');
        const there = replan(machine, { before: machine, from: [], to: possible }, catalogue).machine;
        const changed = edited ? applyEdits(there, [own]) : there;
        const back = replan(changed, { before: machine, from: possible, to: [] }, catalogue);
        expect(back.kept).toEqual([]);
        expect(back.machine).toEqual(edited ? applyEdits(machine, [own]) : machine);
        expect(ripple(facts, []).consequences).toEqual([]);
      }),
      { numRuns: 80 },
    );
  });
  it('of a job half done, everything done by hand for it is to be put back, and nothing else', () => {
    const done = (list: Consequence[]): Done[] =>
      list.map(({ id, kind, subject, title, from, to }) => ({
        id,
        kind,
        subject,
        title,
        ...(from && { from }),
        ...(to && { to }),
        at: '2026-11-25',
      }));
    fc.assert(
      fc.property(someMachine, someChanges, fc.infiniteStream(fc.boolean()), (facts, list, coin) => {
        const all = ripple(facts, list);
        const flip = () => coin.next().value as boolean;
        const ticked = done(all.consequences.filter((entry) => entry.kind === 'lead' && flip()));
        expect(toPutBack(ticked, all.consequences)).toEqual([]);
        const kept = list.filter(() => flip());
        const left = ripple(facts, kept);
        const back = toPutBack(ticked, left.consequences);
        const stillWanted = new Set(left.consequences.map((entry) => entry.id));
        expect(back.map((entry) => entry.done.id)).toEqual(
          ticked.map((entry) => entry.id).filter((id) => !stillWanted.has(id)),
        );
        expect(toPutBack(ticked, ripple(facts, []).consequences)).toHaveLength(ticked.length);
      }),
      { numRuns: 60 },
    );
  });
});

describe('a lead to the head', () => {
  it('reaches the whole travel of every axis the head rides on', () => {
    // Moving bed: X and Z; (242 + 245) · 1.2 + 250 = 834.4
    expect(headLeadMm(demoMachine('plover'))).toBe(850);
    // Lifting bed: X and Y; (182 + 184) · 1.2 + 250 = 689.2
    expect(headLeadMm(demoMachine('dunlin'))).toBe(700);
    // Two-motor belt path: all three; (284 + 266 + 300) · 1.2 + 250 = 1270
    expect(headLeadMm(demoMachine('bittern'))).toBe(1300);
  });
});

describe('mergeThreeWay', () => {
  it('takes what one side changed, keeps ours where both did, and says where', () => {
    const base = { a: 1, b: { c: 1, d: 1 }, list: [{ id: 'x', n: 1 }, { id: 'y', n: 1 }] }; // prettier-ignore
    const ours = { a: 2, b: { c: 1, d: 5 }, list: [{ id: 'x', n: 1 }, { id: 'y', n: 3 }] }; // prettier-ignore
    const theirs = { a: 3, b: { c: 7, d: 1 }, list: [{ id: 'y', n: 1 }, { id: 'z', n: 1 }] }; // prettier-ignore
    expect(mergeThreeWay(base, ours, theirs as never)).toEqual({
      value: { a: 2, b: { c: 7, d: 5 }, list: [{ id: 'y', n: 3 }, { id: 'z', n: 1 }] },
      kept: ['a'],
      met: [['a']],
    }); // prettier-ignore
  });
  it('gives back the other side when one has not changed', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (base, other) => {
        expect(mergeThreeWay(base, base, other).value).toEqual(other);
        expect(mergeThreeWay(base, other, base).value).toEqual(other);
      }),
    );
  });
});

describe('a job file', () => {
  it('is guarded', () => {
    expect(jobSchema().validate({ ...job, reason: 'mood' }).error!.message).toContain('reason');
    expect(jobSchema().validate({ ...job, overruled: 'short' }).error!.message).toContain('overruled');
  });
});
