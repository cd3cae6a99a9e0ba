import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Change } from '../src/ripple/change';
import type { Landing } from '../src/machine/landing';
import { addition, WISHES } from '../src/ripple/additions';
import { applyEdits } from '../src/machine/edit';
import { check } from '../src/checks/checks';
import { derive } from '../src/settings/derive';
import { headerLoads, railLoads } from '../src/harness/electricity';
import { planned } from '../src/ripple/replan';
import { portTrade } from '../src/harness/portTrade';
import { portVerdict } from '../src/solver/exchangeTest';
import { seatsOf } from '../src/harness/harnessModel';
import { whyNoPlace } from '../src/harness/whyNoPlace';
import { caseOf } from '../src/harness/wiringCase';
import { withLandings } from '../src/ripple/withLanding';
import { demoMachine, earlierKit, factsOf, installed } from './fixtures/demo';
import { ploverJob } from './fixtures/job';
import { withPart } from './fixtures/places';

const { catalogue } = installed;
const contact = ({ landing }: { landing: Landing }, role: string) =>
  'leads' in landing ? landing.leads[role] : undefined;

describe('the exchange test', () => {
  const test = (tries: Parameters<typeof portVerdict>[0]['tries']) =>
    portVerdict({
      suspect: { sensor: 'reel-eye', port: 'FILAMENT' },
      sensors: [
        { id: 'reel-eye', output: 'open-collector' },
        { id: 'second reel-eye', output: 'open-collector' },
        { id: 'reel-switch', output: 'switch' },
      ],
      ports: [{ id: 'FILAMENT' }, { id: 'END-3' }, { id: 'known-good board', trusted: true }],
      tries,
    });
  const eye = (port: string, reads: boolean) => ({ sensor: 'reel-eye', port, reads });
  it('one try is not enough, and names the next', () => {
    const found = test([]);
    expect(found.verdict).toBe('one more test needed');
    expect(found.next).toBeDefined();
  });
  it('reads elsewhere, another does not read here: the port', () => {
    const found = test([eye('END-3', true), { sensor: 'second reel-eye', port: 'FILAMENT', reads: false }]);
    expect(found.verdict).toBe('port');
    expect(found.sure).toBeGreaterThan(0.85);
  });
  it('a mechanical one that reads there does not clear the port: an open collector needs a pull-up', () => {
    const found = test([
      eye('END-3', true),
      { sensor: 'reel-switch', port: 'FILAMENT', reads: true },
      { sensor: 'second reel-eye', port: 'FILAMENT', reads: false },
      { sensor: 'second reel-eye', port: 'END-3', reads: true },
    ]);
    expect(found.verdict).toBe('port');
  });
  it('reads nowhere, another reads here: sensor or its lead, told apart by another lead', () => {
    const both = [
      eye('END-3', false),
      eye('known-good board', false),
      { sensor: 'second reel-eye', port: 'FILAMENT', reads: true },
    ];
    expect(test(both).verdict).not.toBe('port');
    const other = (reads: boolean) => ({ sensor: 'reel-eye', port: 'FILAMENT', lead: 'another lead', reads });
    expect(test([...both, other(true)]).verdict).toBe('wiring');
    expect(test([...both, other(false)]).verdict).toBe('sensor');
  });
  it('neither reads elsewhere nor another reads here: both', () => {
    const found = test([
      eye('END-3', false),
      eye('known-good board', false),
      { sensor: 'reel-eye', port: 'END-3', lead: 'another lead', reads: false },
      { sensor: 'second reel-eye', port: 'FILAMENT', reads: false },
      { sensor: 'second reel-eye', port: 'END-3', reads: true },
      { sensor: 'reel-switch', port: 'FILAMENT', reads: false },
    ]);
    expect(found.verdict).toBe('both');
  });
  it('shares always add up, whatever was tried', () => {
    const tries = fc.array(
      fc.record({
        sensor: fc.constantFrom('reel-eye', 'second reel-eye', 'reel-switch'),
        port: fc.constantFrom('FILAMENT', 'END-3', 'known-good board'),
        reads: fc.boolean(),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(tries, (list) => {
        const { shares } = test(list);
        return Math.abs(Object.values(shares).reduce((sum, share) => sum + share, 0) - 1) < 1e-9;
      }),
      { numRuns: 40 },
    );
  });
  it('offers the best trade, with its price', () => {
    const machine = applyEdits(withPart('bittern', 'filament-sensor', 'reel-eye', 'filament'), [
      {
        path: ['harness', 'filament-sensor'],
        value: { leads: { signal: 'FILAMENT.2', ground: 'FILAMENT.1', supply: 'FILAMENT.3' } },
      },
    ]);
    const trade = portTrade(caseOf(factsOf(machine)), machine.harness, 'FILAMENT.2')!;
    expect(trade.moves.map(({ part }) => part)).toEqual(['filament-sensor']);
    expect(contact({ landing: trade.moves[0]!.to }, 'signal')).toBe('END-3.2');
    expect(trade.price).toBeGreaterThan(0);
    expect(trade.unmeetable).toEqual([]);
  });
});

describe('additions', () => {
  const bittern = factsOf(demoMachine('bittern'));
  const wished = (id: string) => WISHES.find((wish) => wish.id === id)!;
  it('a vent-flap servo, a chamber thermistor and a filament sensor each have a place on Bittern', () => {
    const best = (id: string, part: string) => addition(bittern, wished(id), part, catalogue).places[0]!;
    expect(contact(best('servo', 'twig-servo'), 'control')).toBe('SERVO.3');
    expect(contact(best('chamber-thermistor', 't10-c'), 'signal')).toBe('WARM-3.2');
    expect(contact(best('filament-sensor', 'reel-eye'), 'signal')).toBe('END-3.2');
  });
  it('a second one of a kind gets a role and a place of its own', () => {
    const one = applyEdits(bittern.machine, [
      {
        path: ['parts', bittern.parts.length],
        value: { id: 'flap-servo', part: 'twig-servo', role: 'flap' },
      },
      {
        path: ['harness', 'flap-servo'],
        value: { leads: { control: 'SERVO.3', supply: 'SERVO.2', ground: 'SERVO.1' } },
      },
    ]);
    const second = addition(factsOf(one), wished('servo'), 'twig-servo', catalogue);
    expect(second.role).toBe('wiper');
    // The servo header may give 1 A, and one servo draws 0.7 A of it already: no place is recommended that overloads.
    const free = second.places.filter(({ clashes }) => clashes.length === 0);
    expect(free.map((place) => contact(place, 'supply'))).not.toContain('SERVO.2');
    expect(second.also.join()).toContain('Servos: 1 become 2');
  });
  it('say what else must change', () => {
    const { also } = addition(bittern, wished('servo'), 'twig-servo', catalogue);
    expect(also.join(' ')).toMatch(/Servos: 0 become 1.*one time to arrive for each/);
    expect(also.join(' ')).toMatch(/supply gives .* instead of/);
  });
  it('no place is free that would overload a header or a rail', () => {
    fc.assert(
      fc.property(fc.constantFrom('plover', 'bittern', 'dunlin'), fc.constantFrom(...WISHES), (id, wish) => {
        const facts = factsOf(demoMachine(id));
        const type = catalogue.parts.find(({ kind }) => kind === wish.kind)!;
        const found = addition(facts, wish, type.id, catalogue);
        for (const place of found.places.filter(({ clashes }) => clashes.length === 0).slice(0, 3)) {
          const change = wish.change(found.role!, type.id, place.landing);
          const after = factsOf(planned(facts.machine, [change], catalogue));
          const over = (after_: typeof after) =>
            [...headerLoads(after_), ...railLoads(after_)].filter(({ amps, max_a }) => amps > max_a);
          expect(over(after)).toEqual(over(facts));
        }
      }),
      { numRuns: 40 },
    );
  });
  it.each([true, false])('a heater for less volts than the supply gives is placed behind a converter (it says its supply: %s)', (says) => {
    const places = (part: string) => {
      const machine = demoMachine('plover');
      const parts = machine.parts.map((one) => (one.id === 'hotend-heater' ? { ...one, part } : one));
      const facts = factsOf({ ...machine, parts });
      // One that its owner described tells the volts of its watts alone.
      const told = facts.parts.map((one) => (one.id === 'hotend-heater' && !says ? { ...one, type: { ...one.type, supply_v: undefined } } : one));
      const seat = seatsOf(caseOf({ ...facts, parts: told })).find(({ id }) => id === 'hotend-heater');
      return (seat?.all() ?? []).map(({ landing }) => ('with' in landing ? landing.with : []));
    };
    expect(places('cartridge-24-40')).toContainEqual([]);
    const low = places('cartridge-12-40');
    expect(low.length).toBeGreaterThan(0);
    for (const adapters of low) expect(adapters).toContainEqual({ kind: 'converter', lead: 'supply', volts_v: 12 });
  }); // prettier-ignore
  it('where there is none, it says why, and what would help', () => {
    const change = {
      id: 'p',
      kind: 'probe-added',
      part: 'heron',
      mount: { side: 'left', face: 'front' },
      keep_switch: true,
    } as const;
    const dunlin = factsOf(planned(demoMachine('dunlin'), [change], catalogue));
    const nowhere = whyNoPlace(dunlin, 'probe')!;
    expect(nowhere.reasons.join()).toMatch(
      /PWM.*it wants 5 V, and the headers of Sedge S4 give 12 V and 24 V/,
    );
    expect(nowhere.helps.join()).toMatch(/Anvil.*another board/);
    expect(whyNoPlace(factsOf(demoMachine('plover')), 'probe')).toBeUndefined();
  });
  it('two Z motors on one driver can be parted, with a module for the second; two apart cannot', () => {
    const found = addition(bittern, wished('second-z'), 'motor-200-12', catalogue);
    expect(found.impossible).toBeUndefined();
    expect(found.places.map(({ landing }) => landing)).toEqual([{ socket: 'S5' }, { socket: 'S6' }]);
    const change = wished('second-z').change('z', 'motor-200-12', found.places[0]!.landing);
    const machine = planned(bittern.machine, [change], catalogue);
    expect(machine.harness['z-motor-2']).toEqual({ socket: 'S5' });
    expect(machine.parts.at(-1)).toMatchObject({ id: 'z-driver-2', part: 'gannet-g5', microsteps: 16 });
    const apart = addition(factsOf(machine), wished('second-z'), 'motor-200-12', catalogue);
    expect(apart.impossible).toContain('each in a driver place of its own');
    expect(
      check(factsOf(machine, earlierKit), derive(factsOf(machine, earlierKit))).map(
        ({ id, subject }) => `${id} ${subject.id}`,
      ),
    ).toContain('kit.unheard z-motor-2');
  });
  it('a second Z motor beside the first, where it has one', () => {
    const plover = addition(factsOf(demoMachine('plover')), wished('second-z'), 'motor-200-12', catalogue);
    expect(plover.places.map(({ landing }) => landing)).toEqual([{ socket: 'M3' }]);
  });
});

describe('landings decided in a job', () => {
  const { before, changes } = ploverJob();
  const landed = (part: string, landing: Landing, from: Change[] = changes) => {
    const after = planned(before, withLandings(before, from, { [part]: landing }), catalogue);
    return after.harness[part];
  };
  const free: Landing = { leads: { signal: 'AUX.6', ground: 'AUX.1' } };
  it('hold, whichever change brought the part', () => {
    expect(landed('x-switch', free)).toEqual(free);
    const probe: Landing = {
      leads: { signal: 'FILAMENT.3', ground: 'FILAMENT.2', supply: 'FILAMENT.1', control: 'SERVO.1' },
    };
    expect(landed('probe', probe)).toEqual(probe);
    const fan: Landing = { leads: { supply: 'FAN-3.1', control: 'FAN-3.2' } };
    expect(landed('hotend-fan', fan)).toEqual(fan);
    expect(landed('e-motor', { socket: 'M4' })).toEqual({ socket: 'M4' });
  });
  it('are told once: by the change that brings the part, or by the new board for what was there', () => {
    const probe: Landing = { leads: { signal: 'FILAMENT.3', ground: 'FILAMENT.2', supply: 'FILAMENT.1', control: 'SERVO.1' } };
    const told = (part: string, landing: Landing) =>
      withLandings(before, changes, { [part]: landing }).flatMap((change, index) => (JSON.stringify(change) === JSON.stringify(changes[index]) ? [] : [change.kind]));
    expect(told('probe', probe)).toEqual(['probe-added']);
    expect(told('x-switch', free)).toEqual(['new-board']);
    expect(withLandings(before, changes, { probe })).toHaveLength(changes.length);
  }); // prettier-ignore
  it('without a new board they are a change of their own, and a second decision replaces the first', () => {
    const machine = demoMachine('bittern');
    const first = withLandings(machine, [], {
      'part-fan': { leads: { supply: 'FAN-C.1', control: 'FAN-C.2' } },
    });
    const second = withLandings(machine, first, {
      'part-fan': { leads: { supply: 'FAN-B.1', control: 'FAN-B.2' } },
    });
    expect(second).toHaveLength(1);
    expect(planned(machine, second, catalogue).harness['part-fan']).toEqual({
      leads: { supply: 'FAN-B.1', control: 'FAN-B.2' },
    });
  });
});
