import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Board } from '../src/board/board';
import type { Machine } from '../src/machine/machine';
import { applyEdits, type Edit } from '../src/machine/edit';
import { check } from '../src/checks/checks';
import { derive } from '../src/settings/derive';
import { sensorInput } from '../src/settings/sensorInput';
import { driverCurrents } from '../src/harness/electricity';
import { findHarness } from '../src/harness/findHarness';
import { harnessModel, unitsOf } from '../src/harness/harnessModel';
import { pinTable, pinTableCsv } from '../src/circuit/pinTable';
import { planned } from '../src/ripple/replan';
import { cheapestFree, rankLandings } from '../src/harness/rankLandings';
import { resolve } from '../src/machine/facts';
import { ripple } from '../src/ripple/ripple';
import { searchPlacement } from '../src/solver/search';
import { swapPlan, type SwapPlan } from '../src/ripple/swapPlan';
import { violations } from '../src/solver/placement';
import { wiringCase } from '../src/harness/wiringCase';
import { demoMachine, earlierKit, factsOf, installed } from './fixtures/demo';
import { changes, ploverJob } from './fixtures/job';
import { randomWiring } from './fixtures/wiringCases';
import { withPart, placesOf, contact } from './fixtures/places';

const { catalogue } = installed;
const boardOf = (id: string, revision: string): Board =>
  catalogue.boards.find((board) => board.id === id && board.revision === revision)!;
const wire = (machine: Machine, board: Board) => findHarness(wiringCase(machine, catalogue, board)!);

describe('the cheapest free place', () => {
  it('is the first that is free when all are ranked', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000 }), (seed) => {
        const wiring = randomWiring(seed, { parts: 12, headers: 1.1 });
        const { harness } = findHarness(wiring);
        for (const { id } of wiring.parts)
          expect(cheapestFree(wiring, harness, id)).toEqual(
            rankLandings(wiring, harness, id).find(({ clashes }) => clashes.length === 0)?.landing,
          );
      }),
      // A joint that costs no more than its twin without one.
      { numRuns: 40, examples: [[3218]] },
    );
  });
});

describe('the harness of a demo machine', () => {
  it('on its own board is the one it has, at no price', () => {
    for (const id of ['plover', 'bittern', 'dunlin']) {
      const machine = demoMachine(id);
      const { harness, price, unmeetable } = wire(machine, boardOf(machine.board.id, machine.board.revision));
      expect(unmeetable).toEqual([]);
      expect(harness).toEqual(machine.harness);
      expect(price).toBe(0);
    }
  });
  it('moves to the new board on headers made for each part; a 12 V fan gets a converter', () => {
    const found = wire(ploverJob().before, boardOf('alder-a32', '1.1'));
    expect(found.unmeetable).toEqual([]);
    expect(found.harness['z-switch']).toEqual({ leads: { signal: 'STOP-Z.3', ground: 'STOP-Z.2' } });
    expect(found.harness['hotend-fan']).toMatchObject({ with: [{ kind: 'converter', volts_v: 12 }] });
    expect(found.price).toBe(
      found.placed.flatMap(({ lines }) => lines).reduce((sum, { points }) => sum + points, 0),
    );
  });
  it('that cannot be for want of places names the places there are', () => {
    const crowded = applyEdits(
      demoMachine('plover'),
      ['one', 'two', 'three', 'four', 'five', 'six'].map((name, index): Edit => ({
        path: ['parts', 100 + index],
        value: { id: `servo-${name}`, part: 'twig-servo', role: name },
      })),
    );
    const [first] = wire(crowded, boardOf('alder-a32', '1.1')).unmeetable;
    expect(first!.because.at(-1)).toBe(
      'servo-three, servo-four, servo-five, servo-six want 4 places, and only 3 would do: PROBE.3, SERVO.1, AUX.3',
    );
  });
  it('that cannot be says which parts, and what they want', () => {
    const { unmeetable, harness } = wire(demoMachine('plover'), boardOf('sedge-s4', '1'));
    const probe = unmeetable.find(({ parts }) => parts.includes('probe'))!;
    expect(probe.parts).toEqual(['probe']);
    expect(probe.because.join(' ')).toMatch(/PWM.*Sedge S4/);
    expect(harness['probe']).toBeUndefined();
    expect(harness['x-switch']).toBeDefined();
    const bed = wire(demoMachine('bittern'), boardOf('pipit-2', '1')).unmeetable.find(({ parts }) =>
      parts.includes('bed-heater'),
    )!;
    expect(bed.because.join(' ')).toMatch(/12\.5 A.*8\.0 A/);
  });
  it('the pin of a beeper is a way out for a probe, at its price', () => {
    const wiring = wiringCase(demoMachine('plover'), catalogue, boardOf('fenwick-f8', '2'))!;
    const [best] = rankLandings(wiring, findHarness(wiring).harness, 'probe');
    expect(contact(best!, 'control')).toBe('PANEL.10');
    expect(best!.lines.map(({ what }) => what).join()).toContain('the beeper stays silent');
  });
  it('keeps what it is told, and places the rest around it', () => {
    const told = { 'x-switch': { leads: { signal: 'STOP-Z.3', ground: 'STOP-Z.2' } } };
    const { harness } = findHarness(
      wiringCase(ploverJob().before, catalogue, boardOf('alder-a32', '1.1'))!,
      told,
    );
    expect(harness['x-switch']).toEqual(told['x-switch']);
    expect(contact({ landing: harness['z-switch']! }, 'signal')).not.toBe('STOP-Z.3');
  });
  it('keeps every rule in random cases, and its price is what its lines say', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.constantFrom(12, 20), (seed, parts) => {
        const wiring = randomWiring(seed, { parts, headers: 1 });
        const model = harnessModel(wiring, unitsOf(wiring));
        const found = searchPlacement(model.placement);
        if (found) return violations(model.placement, found.picks).length === 0;
        return findHarness(wiring).unmeetable.every(
          ({ parts: some, because }) => some.length > 0 && because.length > some.length,
        );
      }),
      { numRuns: 25 },
    );
  });
});

describe('all landings of one part', () => {
  it('come with price and loss, free ones first, dearer ones after', () => {
    const places = placesOf(
      withPart('bittern', 'filament-sensor', 'reel-eye', 'filament'),
      'filament-sensor',
    );
    const free = places.filter(({ clashes }) => clashes.length === 0);
    expect(free.map(({ price }) => price)).toEqual(free.map(({ price }) => price).sort((a, b) => a - b));
    // The header made for it has a proven fault that hits an open collector; the Z switch's is unused.
    expect(contact(free[0], 'signal')).toBe('END-3.2');
    expect(free[0]!.lines.map(({ what }) => what).join()).toMatch(/Z switch/);
    const faulty = free.find((place) => contact(place, 'signal') === 'FILAMENT.2')!;
    expect(faulty.lines.some(({ id }) => id === 'fault')).toBe(true);
  });
  it('a mechanical sensor is happy on the faulty header', () => {
    const [best] = placesOf(
      withPart('bittern', 'filament-sensor', 'reel-switch', 'filament'),
      'filament-sensor',
    );
    expect(contact(best, 'signal')).toBe('FILAMENT.2');
  });
  it('a servo is not put on the timer of the fans without being told', () => {
    const places = placesOf(withPart('plover', 'flap-servo', 'twig-servo', 'flap'), 'flap-servo');
    const own = places.find((place) => contact(place, 'control') === 'SERVO.1')!;
    expect(own.clashes.map(({ what }) => what).join()).toMatch(/timer 1 at 100 Hz/);
    expect(contact(places[0], 'control')).toBe('AUX.3');
  });
  it('a wire is joined to another only where another sits', () => {
    const machine = withPart('bittern', 'filament-sensor', 'reel-switch', 'filament');
    const joined = (of: Machine) =>
      placesOf(of, 'filament-sensor').filter(
        (place) =>
          contact(place, 'signal') === 'END-3.2' && JSON.stringify(place.landing).includes('"splice"'),
      );
    expect(joined(machine)).toEqual([]);
    const index = machine.parts.length;
    const beside = applyEdits(machine, [
      { path: ['parts', index], value: { id: 'z-switch', part: 'lever-switch-no', role: 'z' } },
      { path: ['harness', 'z-switch'], value: { leads: { signal: 'FEEL.4', ground: 'END-3.1' } } },
    ]);
    expect(joined(beside).length).toBeGreaterThan(0);
  });
  it('a place that is taken names who is there', () => {
    const places = placesOf(demoMachine('plover'), 'x-switch');
    const taken = places.find((place) => contact(place, 'signal') === 'STOP-Y.3')!;
    expect(taken.clashes.map(({ part }) => part)).toContain('y-switch');
  });
  it('a 5 V output gets a divider where the pin does not stand it', () => {
    const machine = applyEdits(demoMachine('plover'), [{ path: ['parts', 16, 'part'], value: 'heron-5' }]);
    const weak = placesOf(machine, 'probe').find((place) => contact(place, 'signal') === 'TEMP-C.1')!;
    expect(weak.landing).toMatchObject({
      with: expect.arrayContaining([expect.objectContaining({ kind: 'divider' })]) as object,
    });
  });
});

describe('the swap plan', () => {
  const job = ploverJob();
  const before = factsOf(job.before);
  const after = factsOf(planned(job.before, job.changes, catalogue));
  const plan: SwapPlan = swapPlan(before, after, ripple(before, job.changes).consequences);
  const at = (subject: string) => plan.steps.findIndex((step) => step.subject === subject);

  it('has a row for every lead and for what is no lead, in an order that can be worked', () => {
    const order = [
      'mount',
      'jumpers-driver-mode',
      'main-supply',
      'x-driver',
      'heat-sinks',
      'bed-heater',
      'x-motor',
      'probe',
      'cable-run',
      'close',
    ];
    expect(order.map(at)).toEqual(order.map(at).sort((a, b) => a - b));
    expect(order.map(at)).not.toContain(-1);
    expect(new Set(plan.steps.map(({ id }) => id)).size).toBe(plan.steps.length);
  });
  it('its rows are the consequences of the job, so that a tick fills a tooth', () => {
    const known = new Set(ripple(before, job.changes).consequences.map(({ id }) => id));
    expect(plan.steps.filter(({ id }) => !known.has(id))).toEqual([]);
  });
  it('two contacts become three: change the shell and re-crimp in the order shown', () => {
    const { tasks, to } = plan.steps[at('x-switch')]!;
    expect(tasks.map(({ act }) => act)).toEqual(['shell', 're-crimp']);
    expect(tasks[1]!.what).toContain('STOP-X: 1 empty, 2 ground, 3 signal');
    expect(to && 'headers' in to && to.headers[0]!.contacts[2]).toEqual({
      number: 3,
      net: 'sig:p10',
      role: 'signal',
    });
  });
  it('warns of what burns: fan voltage, heater wire, polarity, mains', () => {
    expect(plan.steps[at('hotend-fan')]!.cautions.join()).toContain('wants 24 V, its place gives 24 V');
    expect(plan.steps[at('bed-heater')]!.cautions.join()).toMatch(/9\.2 A, gauge 14/);
    expect(plan.steps[at('probe')]!.cautions.join()).toContain('reversed plug');
    expect(plan.steps[at('main-supply')]!.cautions.join()).toContain('qualified electrician');
  });
  it('says how the boards fit, and which way round the supply goes now', () => {
    expect(plan.holes).toMatchObject({ verdict: 'no' });
    expect(plan.steps[at('main-supply')]!.tasks.map(({ what }) => what).join()).toContain(
      'the other way round',
    );
  });
  it('tells jumpers, supply and currents', () => {
    const { jumpers, budget, drivers } = plan.electricity;
    expect(jumpers.find(({ jumper }) => jumper.id === 'STALL-M1')!.position.id).toBe('open');
    expect(jumpers.find(({ jumper }) => jumper.id === 'MODE-M1')!.position.mode).toBe('serial');
    expect(budget.verdict).toBe('fine');
    expect(drivers.every(({ by }) => by === 'line')).toBe(true);
    // No current is promised that a version of the kit does not tell.
    expect(driverCurrents(factsOf(after.machine, earlierKit)).every(({ by }) => by === 'untold')).toBe(true);
  });
  it('is empty when nothing is changed', () => {
    const nothing = swapPlan(after, after, []);
    expect(nothing.steps).toEqual([]);
    expect(nothing.untouched).toHaveLength(after.parts.length);
  });
  it('a plug that would face a wall is named, and a lead that is too short', () => {
    const walled: Edit[] = [
      { path: ['bay'], value: { enters: 'left', walls: ['right'] } },
      { path: ['cables'], value: { 'x-switch': { length_mm: 300, route_mm: 260 } } },
    ];
    const dunlin = applyEdits(demoMachine('dunlin'), walled);
    const tail = ripple(factsOf(dunlin), changes({ kind: 'new-board', board: 'pipit-2', revision: '1' }));
    const found = swapPlan(factsOf(dunlin), factsOf(tail.after), tail.consequences);
    expect(found.walls.map(({ header }) => header)).toEqual(['E1', 'E2', 'E3']);
    expect(found.steps.find(({ subject }) => subject === 'x-switch')!.tasks.map(({ act }) => act)).toContain(
      'lengthen',
    );
  });
});

describe('the pin table', () => {
  it('follows a decision of the user, with what the harness says beside it', () => {
    const machine = applyEdits(demoMachine('plover'), [
      { path: ['pins'], value: { 'x-switch': { pin: 14, because: 'STOP-X is broken, sorry' } } },
    ]);
    const row = pinTable(factsOf(machine)).switches.find(({ name }) => name === 'PIN_X_SWITCH')!;
    expect(row).toMatchObject({ pin: 14, computed: 10, because: 'STOP-X is broken, sorry' });
    expect(pinTableCsv(factsOf(machine))).toContain('PIN_X_SWITCH,14,10,"STOP-X is broken, sorry"\r\n');
  });
  it('a pin decided by hand is judged, pulled up and measured by what the board has there', () => {
    const decided = (row: string, pin: number, ...edits: Edit[]) => {
      const facts = factsOf(applyEdits(demoMachine('plover'), [{ path: ['pins'], value: { [row]: { pin, because: 'a test' } } }, ...edits]));
      const settings = derive(facts);
      return { settings, facts, said: check(facts, settings).filter(({ id }) => /^(sensor|level)\./.test(id)) };
    }; // prettier-ignore
    // p63 measures, and has no resistor.
    for (const edits of [[], [{ path: ['harness', 'bed-sensor'] }]])
      expect(decided('bed-sensor', 63, ...edits).said).toContainEqual(
        expect.objectContaining({ id: 'sensor.no-pull-up', what: 'bed-sensor is on p63, where no resistor is known of.', evidence: ['Alder A32 rev 1.1: p63 decided by hand has no resistor'] }),
      ); // prettier-ignore
    // p62 has one: another than where the lead goes.
    const { facts } = decided('bed-sensor', 62);
    const other = facts.board.inputs.map((one) => (one.pin === 62 ? { ...one, pull_up_ohms: 2200 } : one));
    expect(sensorInput({ ...facts, board: { ...facts.board, inputs: other } }, 'bed').pullupOhms).toBe(2200);
    // The switch left a resistor of the board for a pin without.
    expect(derive(factsOf(demoMachine('plover'))).get('switch.x.pull-up')?.value).toBe(false);
    expect(decided('x-switch', 14).settings.get('switch.x.pull-up')?.value).toBe(true);
    expect(decided('x-switch', -1).settings.get('switch.x.pull-up')?.value).toBe(true);
  });
  it('a part is connected where every pin of its leads was decided by hand', () => {
    const open = (part: string, ...rows: [string, number][]) => {
      const pins = Object.fromEntries(rows.map(([row, pin]) => [row, { pin, because: 'a test' }]));
      const facts = factsOf(applyEdits(demoMachine('plover'), [{ path: ['harness', part] }, { path: ['pins'], value: pins }]));
      return check(facts, derive(facts)).some(({ id, subject }) => id === 'harness.unlanded' && subject.id === part);
    }; // prettier-ignore
    expect(open('part-fan')).toBe(true);
    expect(open('part-fan', ['part-fan', 45])).toBe(false);
    expect(open('part-fan', ['part-fan', -1])).toBe(true);
    // A pin probe is moved as well as read.
    expect(open('probe', ['probe-signal', 63])).toBe(true);
    expect(open('probe', ['probe-signal', 63], ['probe-servo', 45])).toBe(false);
  });
  it('a pin the chip has not, a jumper the board has not, and a missing contact are refused with their place', () => {
    const problems = (...edits: Edit[]) => {
      const resolved = resolve(applyEdits(demoMachine('plover'), edits), catalogue);
      return 'problems' in resolved ? resolved.problems.map(({ path }) => path) : [];
    };
    expect(problems({ path: ['pins'], value: { 'x-switch': { pin: 68, because: 'x' } } })).toEqual([
      'pins.x-switch.pin',
    ]);
    expect(problems({ path: ['jumpers'], value: { NONE: 'open' } })).toEqual(['jumpers.NONE']);
    expect(problems({ path: ['jumpers'], value: { USB: 'sideways' } })).toEqual(['jumpers.USB']);
    expect(problems({ path: ['harness', 'x-switch', 'leads', 'signal'], value: 'STOP-X.9' })).toEqual([
      'harness.x-switch.leads.signal',
    ]);
    expect(problems({ path: ['board', 'revision'], value: '7' })).toEqual(['board']);
  });
});
