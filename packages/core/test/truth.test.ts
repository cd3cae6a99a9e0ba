import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Machine } from '../src/machine/machine';
import {
  ageS,
  type BoardReadings,
  isMeanwhile,
  keptHot,
  OLD_AFTER_MS,
  placeInWords,
  underway,
  underwaySpoken,
  withLine,
} from '../src/bringup/boardReading';
import { applyEdits } from '../src/machine/edit';
import { derive } from '../src/settings/derive';
import { notUnderstood } from '../src/settings/understands';
import { planned } from '../src/ripple/replan';
import { portVerdict } from '../src/solver/exchangeTest';
import { readMachineFile } from '../src/formats/machineFile';
import { resolve } from '../src/machine/facts';
import { ripple } from '../src/ripple/ripple';
import { swapPlan } from '../src/ripple/swapPlan';
import { unheard } from '../src/settings/hearing';
import { whyNoPlace } from '../src/harness/whyNoPlace';
import { demoMachine, earlierKit, factsOf, installed, machineText, own, wholeKit } from './fixtures/demo';
import { changes } from './fixtures/job';

const { catalogue } = installed;

describe('what a running board says', () => {
  const heard = (...lines: [string, number][]): BoardReadings =>
    lines.reduce<BoardReadings>((readings, [line, now]) => withLine(readings, line, now), {});
  const hot = 'heat body=hotend now=198.2 target=200.0 duty=0.31';

  it('each reading has an age of its own, and is old only when it was not heard for long', () => {
    const readings = heard([hot, 1000], ['at x=1.000 y=2.000 z=3.000 homed=xy', 9000]);
    expect(ageS(readings['heat hotend']!, 1000 + OLD_AFTER_MS)).toBeUndefined();
    expect(ageS(readings['heat hotend']!, 9000)).toBe(8);
    expect(ageS(readings['at']!, 9000)).toBeUndefined();
  });
  it('a later line replaces an earlier one of the same body only', () => {
    const readings = heard(
      [hot, 1],
      ['heat body=bed now=21.0 target=0.0 duty=0.00', 2],
      ['heat body=hotend now=60.0 target=0.0 duty=0.00', 3],
    );
    expect(readings['heat hotend']).toMatchObject({ values: { target: '0.0' }, heardAt: 3 });
    expect(readings['heat bed']!.heardAt).toBe(2);
  });
  it('lines said in the middle of a long command count as well', () => {
    const line = 'meanwhile state doing=homing steps=on';
    expect(isMeanwhile(line)).toBe(true);
    expect(underway(heard([line, 1]))).toEqual(['homing']);
  });
  it.each([
    [['state doing=idle steps=off'], []],
    [['state doing=idle steps=off', hot], ['hot end 198 → 200 °C']],
    [['heat body=bed now=64.4 target=0.0 duty=0.00'], ['bed 64 °C, off']],
    [['heat body=bed now=22.0 target=60.0 duty=1.00'], ['bed 22 → 60 °C']],
    [['heat body=bed now=22.0 target=0.0 duty=0.00'], []],
    [
      ['state doing=moving steps=on', hot],
      ['moving', 'hot end 198 → 200 °C'],
    ],
  ])('%j is under way as %j', (lines, said) => {
    expect(underway(heard(...lines.map((line): [string, number] => [line, 1])))).toEqual(said);
  });
  it('for the ear nothing changes with a degree, and something when heat begins or ends', () => {
    const at = (now: number, target: number) => underwaySpoken(heard([`heat body=bed now=${now} target=${target} duty=0.5`, 1])); // prettier-ignore
    expect(at(61, 60)).toEqual(['bed heated to 60 °C']);
    expect(at(64.4, 60)).toEqual(at(22, 60));
    expect([at(64.4, 0), at(22, 0)]).toEqual([['bed hot, off'], []]);
  });
  it('what is kept hot is what is asked for, however warm it is already', () => {
    const readings = heard(
      ['heat body=hotend now=24.0 target=150.0 duty=1.00', 1],
      ['heat body=bed now=64.4 target=0.0 duty=0.00', 1],
      ['state doing=idle steps=off target=3', 1],
    );
    expect(keptHot(readings)).toEqual(['hot end at 150\u00a0°C']);
    expect(keptHot({})).toEqual([]);
  });
  it('an axis that is not homed has no place', () => {
    expect(placeInWords({ x: '1.000', y: '2.000', z: '3.000', homed: 'xy' })).toBe(
      'X\u00a01.000 Y\u00a02.000 Z\u00a0?\u00a0mm',
    );
    expect(placeInWords({ x: '0.000', y: '0.000', z: '0.000', homed: '---' })).toContain(
      'X\u00a0? Y\u00a0? Z\u00a0?',
    );
  });
  it('no line breaks it, and a line of another word changes nothing', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (line) => {
        const before = heard([hot, 1]);
        const after = withLine(before, line, 2);
        expect(underway(after).length).toBeGreaterThan(0);
        if (
          !/^(meanwhile )?\s*(state|at|switch|heat|fan|servo|driver|map|tilt|print|card|resume|filament)/.test(
            line,
          )
        )
          expect(after).toBe(before);
      }),
    );
  });
});

describe('what a kit version does', () => {
  it('a command is known by name, by version and by what is switched on', () => {
    const facts = factsOf(demoMachine('plover'), earlierKit);
    const said = (command: string) => notUnderstood(facts, derive(facts), command);
    expect(said('G28')).toBeUndefined();
    expect(said('G29')).toBe('Lantern 0.1.0 does not know G29.');
    expect(said('map take')).toMatch(/Lantern 0\.1\.0 cannot do that, 0\.2\.0 will\.$/);
    const cold = factsOf(applyEdits(demoMachine('plover'), [own('bed.heated', false)]));
    expect(notUnderstood(cold, derive(cold), 'M190')).toMatch(/off on this machine \(bed\.heated\)/);
  });
  it('every part it leaves alone has its sentence, and the whole kit leaves alone only what none will steer', () => {
    for (const id of ['plover', 'bittern', 'dunlin']) {
      const now = factsOf(demoMachine(id), earlierKit);
      const left = now.parts.flatMap((part) => unheard(now, part) ?? []);
      for (const { without, from } of left) {
        expect(without).toMatch(/\.$/);
        expect(from).toBe('0.2.0');
      }
      const later = factsOf(demoMachine(id), wholeKit);
      expect(later.parts.filter((part) => unheard(later, part))).toEqual([]);
    }
  });
});

describe('a mains bed on the swap sheet', () => {
  it('leaves the board before its relay comes to the same terminal, and never goes back', () => {
    const before = factsOf(demoMachine('dunlin'));
    const told = changes({ kind: 'heater', body: 'bed', part: 'bed-230-500', relay: 'sluice-s10' });
    const after = factsOf(planned(demoMachine('dunlin'), told, catalogue));
    const { steps } = swapPlan(before, after, ripple(before, told).consequences);
    const at = (subject: string) => steps.findIndex((step) => step.subject === subject);
    expect(at('bed-heater')).toBeGreaterThanOrEqual(0);
    expect(at('bed-heater')).toBeLessThan(at('bed-relay'));
    expect(steps[at('bed-heater')]).toMatchObject({
      tasks: [
        {
          act: 'retire',
          what: expect.stringMatching(/^Take its old wires out of H1\. .*bed-relay, never/) as string,
        },
      ],
    });
    expect(steps[at('bed-heater')]).not.toHaveProperty('to');
    expect(steps[at('bed-relay')]!.cautions.join()).toContain('a qualified electrician');
  });
});

describe('cables of a bigger machine', () => {
  const routes = (machine: Machine) =>
    Object.fromEntries(Object.entries(machine.cables ?? {}).map(([id, { route_mm }]) => [id, route_mm]));
  const grown = (by: Partial<Record<'x' | 'y' | 'z', number>>) => {
    const before = applyEdits(demoMachine('plover'), [
      {
        path: ['cables'],
        value: Object.fromEntries(
          ['hotend-heater', 'bed-heater', 'y-switch'].map((id) => [
            id,
            { awg: 20, length_mm: 900, route_mm: 700 },
          ]),
        ),
      },
    ]);
    const { bed_mm, travel_mm } = before.frame;
    const longer = (axis: 'x' | 'y' | 'z'): [number, number] => [
      travel_mm[axis][0],
      travel_mm[axis][1] + (by[axis] ?? 0),
    ];
    const told = changes({
      kind: 'frame-size',
      bed_mm,
      travel_mm: { x: longer('x'), y: longer('y'), z: longer('z') },
    });
    return { after: routes(planned(before, told, catalogue)) };
  };
  it.each([
    [{ z: 100 }, { 'hotend-heater': 800, 'bed-heater': 700, 'y-switch': 700 }],
    [{ y: 40 }, { 'hotend-heater': 700, 'bed-heater': 740, 'y-switch': 700 }],
    [
      { x: 30, z: 100 },
      { 'hotend-heater': 830, 'bed-heater': 700, 'y-switch': 700 },
    ],
    [
      { x: -30, y: -30, z: -30 },
      { 'hotend-heater': 700, 'bed-heater': 700, 'y-switch': 700 },
    ],
  ])('travel longer by %j makes the ways %j', (by, ways) => {
    expect(grown(by).after).toEqual(ways);
  });
});

describe('a port that lacks its pull-up', () => {
  const test = (noPullUp?: 'proven') =>
    portVerdict({
      suspect: { sensor: 'eye', port: 'FILAMENT.2' },
      sensors: [
        { id: 'eye', output: 'open-collector' },
        { id: 'lever', output: 'switch' },
      ],
      ports: [{ id: 'FILAMENT.2', ...(noPullUp && { noPullUp }) }, { id: 'END-3.2' }],
      tries: [
        { sensor: 'eye', port: 'FILAMENT.2', reads: false },
        { sensor: 'eye', port: 'END-3.2', reads: true },
        { sensor: 'lever', port: 'FILAMENT.2', reads: true },
      ],
    });
  it('a lever that reads there does not clear it, and names what is missing', () => {
    expect(test('proven')).toMatchObject({ verdict: 'port', detail: 'no pull-up' });
    expect(test('proven').sure).toBeGreaterThan(test().sure);
  });
});

describe('a part without a place', () => {
  it('says why and what would help', () => {
    const facts = factsOf(
      applyEdits(demoMachine('dunlin'), [
        {
          path: ['parts', demoMachine('dunlin').parts.length],
          value: { id: 'probe', part: 'heron-5', role: 'bed' },
        },
      ]),
    );
    const found = whyNoPlace(facts, 'probe');
    expect(found?.reasons.join()).toMatch(/it wants 5 V, and the headers of .* give/);
    expect(found?.helps.length).toBeGreaterThan(0);
  });
});

describe('names that are gone', () => {
  it.each(['hush-wire', 'heron', 'alder-a32'])(
    'a machine file that names another %s is refused, and says which',
    (name) => {
      const text = machineText('plover');
      expect(text).toContain(name);
      const read = readMachineFile(text.replaceAll(name, `${name}-gone`));
      if ('problems' in read) throw new Error(JSON.stringify(read.problems));
      const resolved = resolve(read.value, catalogue);
      expect('problems' in resolved && JSON.stringify(resolved.problems)).toContain(`${name}-gone`);
    },
  );
});

describe('a pin decided by hand', () => {
  const refused = (row: string, pin: number) => {
    const machine = applyEdits(demoMachine('plover'), [
      { path: ['pins', row], value: { pin, source: 'override', because: 'a test' } },
    ]);
    const resolved = resolve(machine, catalogue);
    return 'problems' in resolved ? resolved.problems[0]!.message : undefined;
  };
  const { chip } = factsOf(demoMachine('plover'));
  const pinThat = (can: string, not = false) =>
    chip.pin_groups.find((group) => group.can.includes(can as never) !== not)!.pins[0]!;
  it.each([
    ['probe-servo', 'pwm', 'give pulses'],
    ['hotend-sensor', 'adc', 'measure a voltage'],
  ])('%s is refused where it cannot %s', (row, can, words) => {
    expect(refused(row, pinThat(can))).toBeUndefined();
    expect(refused(row, pinThat(can, true))).toMatch(new RegExp(`cannot ${words}; it can do`));
    expect(refused(row, 4000)).toMatch(/has no pin 4000/);
    expect(refused(row, -1)).toBeUndefined();
  });
});
