import { describe, expect, it } from 'vitest';
import { check } from '../src/checks/checks';
import { meterRows } from '../src/firstPower/metering';
import { powerStages } from '../src/firstPower/stages';
import { applyEdits } from '../src/machine/edit';
import { extruderProofs, motorProofs } from '../src/proofs/motors';
import { driverProofs } from '../src/proofs/panel';
import { derive } from '../src/settings/derive';
import type { Machine } from '../src/machine/machine';
import { planned } from '../src/ripple/replan';
import { ripple } from '../src/ripple/ripple';
import { swapTo } from '../src/ripple/swapTo';
import { demoMachine, factsOf, installed } from './fixtures/demo';
import { changes, subjects } from './fixtures/job';

const pipit = { kind: 'new-board', board: 'pipit-2', revision: '1' } as const;
const drivers = { kind: 'drivers', part: 'hush-plain', axes: ['x', 'y', 'z', 'e'], microsteps: 32 } as const;
const told = { ...drivers, axes: [...drivers.axes] };
const tail = (machine: Machine, ...list: Parameters<typeof changes>) =>
  ripple(factsOf(machine), changes(...list));
const said = ({ contradictions }: ReturnType<typeof ripple>) =>
  contradictions.map(({ id, what, why }) => `${id}: ${what} ${why}`);

describe('a board whose drivers are soldered', () => {
  const dunlin = demoMachine('dunlin');
  it('brings drivers that nobody knows before they are told, for every axis', () => {
    const [silent, ...others] = said(tail(dunlin, pipit));
    expect(others).toEqual([]);
    expect(silent).toMatch(
      /^drivers-stay: .*nobody said which they are.*x-driver, y-driver, z-driver, e-driver/,
    );
    expect(said(tail(dunlin, pipit, { ...told, axes: ['x', 'y'] }))[0]).toMatch(/for z-driver, e-driver\.$/);
    expect(said(tail(dunlin, pipit, told))).toEqual([]);
    const swap = swapTo(factsOf(dunlin), { id: 'pipit-2', revision: '1' });
    expect(swap?.contradictions).toHaveLength(1);
    // None of them stays as it is.
    expect(swap?.plan.untouched).toEqual([]);
  });
  it('leaves the modules of the board before without work, and asks for no seat and no heat sink', () => {
    const moved = tail(demoMachine('plover'), pipit, told);
    expect(subjects(moved, 'idle')).toEqual(
      expect.arrayContaining(['x-driver-module', 'y-driver-module', 'z-driver-module', 'e-driver-module']),
    );
    expect(subjects(moved, 'caution')).toContain('motor-live');
    for (const gone of ['driver-live', 'driver-cool']) expect(subjects(moved, 'caution')).not.toContain(gone);
    expect(subjects(moved, 'lead').filter((part) => part.endsWith('-driver'))).toEqual([]);
  });
  it('keeps them when it goes: the next one wants modules, also of the same type', () => {
    const soldered = planned(dunlin, changes(pipit, told), installed.catalogue);
    const alder = { kind: 'new-board', board: 'alder-a32', revision: '1.1' } as const;
    expect(said(tail(soldered, alder))[0]).toMatch(
      /^drivers-stay: The drivers of Pipit 2 are soldered, and stay with it/,
    );
    const away = tail(soldered, alder, told);
    expect(said(away)).toEqual([]);
    const seat = away.consequences.find(({ kind, subject }) => kind === 'lead' && subject === 'x-driver');
    expect(seat?.title).toBe('Seat a new module: Hush Plain as x-driver');
  });
  it('is not spoken of as if a module sat there', () => {
    const report = { path: ['settings', 'driver.report'], value: { value: true, because: 'a test' } };
    const unread = { path: ['parts', dunlin.parts.findIndex(({ id }) => id === 'x-driver'), 'microsteps'] };
    const words = (machine: Machine) => {
      const facts = factsOf(machine);
      const settings = derive(facts);
      const proofs = [...motorProofs(facts), ...extruderProofs(facts, settings), ...driverProofs(facts, settings)]; // prettier-ignore
      const told = proofs.map(({ act, causes }) => ({ act, causes }));
      return JSON.stringify([told, meterRows(facts), powerStages(facts), check(facts, settings)]);
    };
    const wished = applyEdits(dunlin, [report, unread]);
    expect(wished.board.id).toBe('sedge-s4');
    expect(words(wished).match(/.{0,60}module.{0,60}/gi)).toBeNull();
    // It is looked for where such things are said: a board with modules speaks of them.
    expect(words(applyEdits(demoMachine('plover'), [report])).match(/module/gi)?.length).toBeGreaterThan(5);
  });
});
