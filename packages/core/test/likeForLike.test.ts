import { describe, expect, it } from 'vitest';
import { applyEdits, type Edit } from '../src/machine/edit';
import type { Machine } from '../src/machine/machine';
import { boardInWords, sameBoard } from '../src/machine/same';
import { noteRestsOn } from '../src/firstPower/noteRestsOn';
import { groundsOf, voidBecause } from '../src/machine/ground';
import { proofSteps } from '../src/proofs/proofs';
import { ripple } from '../src/ripple/ripple';
import { swapPlan } from '../src/ripple/swapPlan';
import { needTick } from '../src/ripple/surveyTick';
import { changes } from './fixtures/job';
import { demoMachine, factsOf } from './fixtures/demo';

const before = factsOf(demoMachine('plover'));
const tail = (machine: Machine, ...told: Parameters<typeof changes>) => ripple(factsOf(machine), changes(...told)); // prettier-ignore
const planOf = (machine: Machine, after: Machine, ...told: Parameters<typeof changes>) =>
  swapPlan(factsOf(machine), factsOf(after), tail(machine, ...told).consequences);
const edited = (...edits: Edit[]) => applyEdits(demoMachine('plover'), edits);

describe('a board replaced like for like', () => {
  const { after } = tail(before.machine, { kind: 'same-board' });
  it('is another copy, of which nothing is known', () => {
    expect(after.board).toEqual({ id: 'alder-a32', revision: '1.1', copy: 2 });
    expect(sameBoard(before.machine, after)).toBe(false);
    expect(boardInWords(factsOf(after))).toBe('Alder A32 rev 1.1, copy 2');
    const looked = edited({ path: ['jumpers'], value: { USB: 'usb' } }, { path: ['board', 'marking'], value: 'K32-48' }); // prettier-ignore
    const again = tail(looked, { kind: 'same-board' }).after;
    expect([again.jumpers, again.board.marking, again.board.copy]).toEqual([undefined, undefined, 2]);
    expect(tail(after, { kind: 'same-board' }).after.board.copy).toBe(3);
    // That no bootloader is wanted was decided, and stays so.
    const without = edited({ path: ['board', 'bootloader'], value: false });
    expect(tail(without, { kind: 'same-board' }).after.board.bootloader).toBe(false);
  });

  it('takes over every plug, each to where it was', () => {
    const plan = planOf(before.machine, after, { kind: 'same-board' });
    expect(plan).toMatchObject({ swap: true, from: 'Alder A32 rev 1.1', to: 'Alder A32 rev 1.1, copy 2', untouched: [], holes: { verdict: 'fits' } }); // prettier-ignore
    const leads = plan.steps.filter(({ kind }) => kind === 'lead');
    expect(leads.map(({ subject }) => subject).sort()).toEqual(Object.keys(before.machine.harness).sort());
    for (const { from, to, tasks } of leads) {
      expect(to).toEqual(from);
      expect(tasks.map(({ act }) => act)).not.toContain('leave');
      expect(tasks.map(({ act }) => act)).not.toContain('re-crimp');
    }
    expect(plan.steps.map(({ subject }) => subject)).toEqual(
      expect.arrayContaining(['mount', 'main-supply', 'close']),
    );
  });

  it('needs no other speed on the link: its chip is the same', () => {
    const decides = tail(before.machine, { kind: 'same-board' }).consequences.filter(({ kind }) => kind === 'decide'); // prettier-ignore
    expect(decides.map(({ subject }) => subject)).not.toContain('link.baud');
  });
});

it('doing without a bootloader, or with one again, moves no plug', () => {
  const bare = edited({ path: ['board', 'bootloader'], value: false });
  for (const [one, other] of [
    [before.machine, bare],
    [bare, before.machine],
    [bare, bare],
  ] as const)
    expect(planOf(one, other)).toMatchObject({ swap: false, steps: [] });
});

describe('a part replaced like for like', () => {
  it.each(before.parts.map(({ id }) => id))('%s: its lead, and what rests on it', (id) => {
    const found = tail(before.machine, { kind: 'same-part', part: id });
    expect(found.flash).toBe(false);
    expect(found.after).toEqual({
      ...before.machine,
      parts: before.machine.parts.map((part) => (part.id === id ? { ...part, copy: 2 } : part)),
    });
    expect(found.consequences.filter(({ kind }) => kind === 'lead').map(({ subject }) => subject)).toEqual([id]); // prettier-ignore
    const now = factsOf(found.after);
    const void_ = proofSteps(before).filter(({ restsOn }) => voidBecause(groundsOf(before, restsOn), now));
    const told = found.consequences.filter(({ kind }) => kind === 'proof').map(({ subject }) => subject);
    expect(void_.map((step) => step.id).sort()).toEqual(told.sort());
    expect(told.length).toBeGreaterThan(0);
  });

  it('takes what was read off the old sensor with it', () => {
    const read = edited({ path: ['readings'], value: { hotend: [{ raw: 500, known_c: 100 }], bed: [{ raw: 1, known_c: 20 }] } }); // prettier-ignore
    const { after } = tail(read, { kind: 'same-part', part: 'hotend-sensor' });
    expect(after.readings).toEqual({ bed: [{ raw: 1, known_c: 20 }] });
  });

  it('cannot be a part that is not there', () => {
    const found = tail(before.machine, { kind: 'same-part', part: 'lamp' });
    expect(found.contradictions.map(({ id }) => id)).toEqual(['impossible']);
  });
});

describe('what was noted at the first power', () => {
  const ids = ['heater-hotend', 'module-x-driver', 'polarity', 'supply vin'];
  const grounds = new Map(ids.map((id) => [id, groundsOf(before, noteRestsOn(before, id))]));
  const voided = (now: Machine) =>
    ids.filter((id) => voidBecause(grounds.get(id), factsOf(now), 'noted') !== undefined);
  const elsewhere: Edit = { path: ['harness', 'part-fan'], value: { leads: { supply: 'FAN-3.1', control: 'FAN-3.2' } } }; // prettier-ignore
  it.each<[string, Machine, string[]]>([
    ['counts for the machine as it was', before.machine, []],
    ['of another copy of its board counts for nothing', tail(before.machine, { kind: 'same-board' }).after, ids],
    ['of a part that was replaced is void, of another it is not', tail(before.machine, { kind: 'same-part', part: 'hotend-heater' }).after, ['heater-hotend', 'polarity', 'supply vin']],
    ['of the whole is void with any lead that moves', edited(elsewhere), ['polarity', 'supply vin']],
  ])('%s', (_what, now, wanted) => {
    expect(voided(now)).toEqual(wanted);
  }); // prettier-ignore
});

describe('a tick', () => {
  const ids = (kind: string, ...told: Parameters<typeof changes>) =>
    tail(before.machine, ...told).consequences.flatMap((one) => (one.kind === kind ? [one.id] : []));
  const alder = { kind: 'new-board', board: 'alder-a32', revision: '1.0' } as const;
  const fenwick = { kind: 'new-board', board: 'fenwick-f8', revision: '2' } as const;
  it('of a step with one board is none of the same step with another', () => {
    const [one, other] = [ids('step', alder), ids('step', fenwick)];
    expect(one.some((id) => id.startsWith('step:mount'))).toBe(true);
    expect(one.filter((id) => id.startsWith('step:mount') && other.includes(id))).toEqual([]);
    expect(ids('step', alder)).toEqual(one);
  });
  it('stands on the row of the swap sheet that it was made for', () => {
    const { after, consequences } = tail(before.machine, fenwick);
    const rows = swapPlan(before, factsOf(after), consequences).steps.map(({ id }) => id);
    const wanted = consequences.filter(({ kind }) => kind === 'step' || kind === 'lead').map(({ id }) => id);
    expect(rows.sort()).toEqual(wanted.sort());
  });
  it('of what lies on the table is for so many of it', () => {
    const labels = { id: 'labels', what: 'labels or tape', count: 17 };
    expect(needTick(labels)).toBe(needTick({ ...labels }));
    expect(needTick({ ...labels, count: 18 })).not.toBe(needTick(labels));
    expect(needTick({ ...labels, what: 'labels' })).not.toBe(needTick(labels));
  });
});
