import { describe, expect, it } from 'vitest';
import { CHANGE_TYPES } from '../src/ripple/changes';
import { measuredBy } from '../src/settings/measured';
import { measuredEdit } from '../src/settings/measuredEdit';
import { applyEdits } from '../src/machine/edit';
import { calibrationsOf } from '../src/calibration/calibrations';
import { factAtoms, factInWords, type FactKey, touched, touchedBy } from '../src/machine/touched';
import { planned } from '../src/ripple/replan';
import { proofSteps } from '../src/proofs/proofs';
import { demoMachine, factsOf, installed } from './fixtures/demo';
import { TWO_EXTRUDERS } from './fixtures/twoExtruders';
import { check } from '../src/checks/checks';
import { derive } from '../src/settings/derive';
import { type Machine, type OwnSetting, WARMED } from '../src/machine/machine';
import { changes, EVERY_KIND, ploverJob } from './fixtures/job';

const { catalogue } = installed;
const machines = [
  factsOf(ploverJob().before),
  ...['plover', 'bittern', 'dunlin'].map((id) => factsOf(demoMachine(id))),
  factsOf(withRelays(applyEdits(demoMachine('bittern'), TWO_EXTRUDERS))),
];

/** A relay before whatever is warmed. */
function withRelays(machine: Machine): Machine {
  const relays = WARMED.map((role) => ({ id: `${role}-relay`, part: 'sluice-s10', role }));
  const others = machine.parts.filter(({ id }) => !relays.some((relay) => relay.id === id));
  return { ...machine, parts: [...others, ...relays] };
}

describe('what things rest on', () => {
  /** Every fact some machine has, and every event some change has. */
  const known = new Set<FactKey>([
    ...machines.flatMap((facts) => [...factAtoms(facts).keys()]),
    ...Object.values(CHANGE_TYPES).flatMap((type) => type.events ?? []),
    ...EVERY_KIND.flatMap((_, index) => {
      const list = changes(EVERY_KIND[index]!);
      return machines.flatMap((facts) => [
        ...touched(
          factAtoms(facts),
          factAtoms(
            factsOf(
              planned(
                facts.machine,
                list.filter((change) => change.kind !== 'kit-version'),
                catalogue,
              ),
            ),
          ),
          [],
        ).keys(),
      ]);
    }),
    // An image of its own is an event of the flash, not of the machine.
    'image',
    'stored',
  ]);
  const exists = (pattern: string) =>
    [...known].some((key) =>
      pattern.endsWith('*') ? key.startsWith(pattern.slice(0, -1)) : key === pattern,
    );
  const named: [string, readonly FactKey[]][] = [
    ...machines.flatMap((facts) => [
      ...proofSteps(facts).map((step): [string, readonly FactKey[]] => [step.id, step.restsOn]),
      ...calibrationsOf(facts).map((entry): [string, readonly FactKey[]] => [entry.id, entry.restsOn]),
    ]),
    ...machines[0]!.kit.options.map(({ key }): [string, readonly FactKey[]] => [
      key,
      measuredBy(key)?.restsOn ?? [],
    ]),
  ];
  it('is a fact that some machine has or some change touches: a misspelt one would never be heard', () => {
    const chamber = /chamber/;
    const unheard = named.flatMap(([id, facts]) =>
      facts.filter((fact) => !exists(fact) && !chamber.test(fact)).map((fact) => `${id}: ${fact}`),
    );
    expect([...new Set(unheard)]).toEqual([]);
  });
  it('a calibration falls due with what its value belongs to, and not with less or more', () => {
    const apart = machines.flatMap(calibrationsOf).flatMap(({ id, sets, restsOn }) =>
      sets
        // Steps that a module with others divides are reckoned anew, not measured.
        .filter((key) => measuredBy(key)?.then !== 'rescale')
        .filter((key) => [...measuredBy(key)!.restsOn].sort().join() !== [...restsOn].sort().join())
        .map((key) => `${id}: ${key}`),
    );
    expect([...new Set(apart)]).toEqual([]);
  });
  it('a value that was measured without a relay or a fan keeps that there was none', () => {
    const facts = factsOf(demoMachine('dunlin'));
    const { value } = measuredEdit(facts, 'pid.hotend.p', 20, 'tuned');
    const { measured_with } = value as OwnSetting; // what that edit gives
    expect(measured_with).toMatchObject({ 'relay.hotend': 'none', supply: expect.stringContaining('V') });
    const relayed = factsOf(
      withRelays({ ...facts.machine, settings: { 'pid.hotend.p': value as OwnSetting } }),
    );
    const foreign = check(relayed, derive(relayed)).find(({ id }) => id === 'heat.pid-foreign');
    expect(foreign?.what).toBe('pid.hotend.p was measured with another state of the hot-end relay.');
    // The current of one axis is no matter of another's driver.
    expect(measuredBy('current.x')?.restsOn).toEqual(['board', 'driver.x', 'motor.x']);
    expect(measuredBy('speed.x')).toBeUndefined();
  });
  describe('a value measured with parts that are others now, however they were exchanged,', () => {
    const measured = (machine: Machine, key: string, value: number) =>
      applyEdits(machine, [measuredEdit(factsOf(machine), key, value, 'measured')]);
    const withPart = (
      machine: Machine,
      role: string,
      kind: string,
      part: Partial<Machine['parts'][number]>,
    ) => {
      const { id } = factsOf(machine).parts.find((one) => one.role === role && one.type.kind === kind)!;
      return { ...machine, parts: machine.parts.map((one) => (one.id === id ? { ...one, ...part } : one)) };
    };
    const told = (machine: Machine) => {
      const facts = factsOf(machine);
      return check(facts, derive(facts)).filter(({ id }) => id === 'measured.foreign');
    };
    const plover = demoMachine('plover');

    it('is told, and nothing is before', () => {
      const before = measured(plover, 'probe.offset.z', -1.2);
      expect(told(before)).toEqual([]);
      const [found, ...more] = told(withPart(before, 'z', 'probe', { part: 'plumb' }));
      expect(more).toEqual([]);
      expect(found).toMatchObject({
        what: 'probe.offset.z was measured with another state of the probe.',
        why: expect.stringContaining('the probe, the mount of the probe, the hot end and the nozzle'),
        // What the mount says was measured once as well.
        remedies: [],
      });
    });
    it('and nobody is troubled by a value that plays no part any more', () => {
      const before = measured(plover, 'probe.offset.z', -1.2);
      const { probe_mount: _mount, ...without } = {
        ...before,
        parts: before.parts.filter(({ id }) => id !== 'probe'),
        harness: Object.fromEntries(Object.entries(before.harness).filter(([id]) => id !== 'probe')),
      };
      expect(told(without)).toEqual([]);
    });
    it('may follow the facts again where they give a value', () => {
      const before = measured(plover, 'current.x', 0.7);
      const [found] = told(withPart(before, 'x', 'motor', { copy: 2 }));
      expect(found?.what).toBe('current.x was measured with another state of the X motor.');
      expect(found?.remedies).toHaveLength(1);
    });
    it('a nudge goes with the nozzle it was found with; that there is none is nobody’s measurement', () => {
      const other = (value: number) =>
        told(withPart(measured(plover, 'nudge.start', value), 'z', 'probe', { part: 'plumb' }));
      expect(other(-0.04).map(({ subject }) => subject.id)).toContain('nudge.start');
      expect(other(0)).toEqual([]);
    });
    it('a current is told of drivers that are set at their pots as well: the volts there follow from it', () => {
      const before = measured(ploverJob().before, 'current.x', 0.7);
      expect(told(before)).toEqual([]);
      expect(told(withPart(before, 'x', 'driver', { copy: 2 })).map(({ subject }) => subject.id)).toEqual([
        'current.x',
      ]);
    });
    it('steps of an extruder go by what its driver divides, not by its make', () => {
      const before = measured(plover, 'steps.e', 404);
      expect(told(withPart(before, 'e', 'driver', { copy: 2 }))).toEqual([]);
      expect(told(withPart(before, 'e', 'driver', { microsteps: 32 }))).toHaveLength(1);
    });
  });
  it('can be said in words', () => {
    for (const key of known) expect(factInWords(key)).toMatch(/^the .{3,}/);
    expect(factInWords('driver.x')).toBe('the X driver');
    expect(factInWords('axis.e')).toBe('the extruder drive');
    expect(factInWords('landing.switch')).toBe('the wiring of a switch');
  });
  it('a pattern with a star is heard for every axis, a plain one only for its own', () => {
    const facts = new Map([['driver.z', { from: 'a', to: 'b' }]]);
    expect(touchedBy(facts, ['board', 'driver.*'])).toBe('driver.z');
    expect(touchedBy(facts, ['driver.x'])).toBeUndefined();
  });
  it('a key in another order is no difference', () => {
    const { machine } = machines[1]!;
    const turned = {
      ...machine,
      supply: { amps_a: machine.supply.amps_a, volts_v: machine.supply.volts_v },
      axes: { ...machine.axes, x: Object.fromEntries(Object.entries(machine.axes.x).reverse()) as never },
    };
    expect([...touched(factAtoms(factsOf(machine)), factAtoms(factsOf(turned)), []).keys()]).toEqual([]);
  });
});
