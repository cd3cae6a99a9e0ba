import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits, type Edit, resetEdit } from '../src/machine/edit';
import { derive } from '../src/settings/derive';
import { directionAfterSwap } from '../src/motion/directionAfterSwap';
import { firstError } from '../src/build/diagnostic';
import { machineSchema } from '../src/machine/machine';
import { pinTable } from '../src/circuit/pinTable';
import { proofSteps } from '../src/proofs/proofs';
import { refusal } from '../src/kit/kit';
import { resolve } from '../src/machine/facts';
import { sizesOf } from '../src/build/sizes';
import { sourceOfNames } from '../src/build/sourceOfNames';
import { textOf } from '../src/build/generatedFile';
import { write } from '../src/build/write';
import { demoMachine, factsOf, installed, own, partIndex } from './fixtures/demo';

const settingsOf = (id: string, ...edits: Parameters<typeof applyEdits>[1]) =>
  derive(factsOf(applyEdits(demoMachine(id), edits)));
const value = (id: string, key: string, ...edits: Parameters<typeof applyEdits>[1]) =>
  settingsOf(id, ...edits).get(key)?.value;

describe('derive', () => {
  it('steps follow from pulley, belt, motor and microsteps', () => {
    expect(value('plover', 'steps.x')).toBe(100);
    expect(value('plover', 'steps.x', { path: ['axes', 'x', 'teeth'], value: 20 })).toBe(80);
    expect(
      value('plover', 'steps.x', {
        path: ['parts', partIndex('plover', 'x-driver'), 'microsteps'],
        value: 32,
      }),
    ).toBe(200);
  });
  it('a direction flips with the driver, the plug and the way the shaft turns', () => {
    const before = value('plover', 'direction.x') as boolean;
    const other = value('plover', 'direction.x', {
      path: ['parts', partIndex('plover', 'x-driver'), 'part'],
      value: 'dray-d1',
    });
    expect(other).toBe(
      directionAfterSwap({
        wasInverted: before,
        oldDriverFlips: true,
        newDriverFlips: false,
        plugTurned: false,
      }),
    );
    expect(value('plover', 'direction.x', { path: ['harness', 'x-motor', 'turned'], value: true })).toBe(
      !before,
    );
  });
  it('a switch is read by its kind, and pulled up by the chip only where the board does not', () => {
    expect(value('plover', 'switch.x.pressed')).toBe('high');
    expect(value('dunlin', 'switch.x.pressed')).toBe('low');
    expect(value('plover', 'switch.x.pull-up')).toBe(false);
    expect(
      value('plover', 'switch.x.pull-up', {
        path: ['harness', 'x-switch', 'leads', 'signal'],
        value: 'STOP-Z.3',
      }),
    ).toBe(true);
  });
  it('the probe homes Z only where no switch does', () => {
    expect(value('plover', 'home.z.with')).toBe('probe');
    expect(value('dunlin', 'home.z.with')).toBe('switch');
  });
  it('the highest temperature keeps clear of the weaker of heater and sensor', () => {
    expect(value('plover', 'heat.hotend.max')).toBe(278);
    expect(value('plover', 'heat.bed.max')).toBe(118);
  });
  it('an own value hides what the facts say, and gives it back', () => {
    const setting = settingsOf('plover', own('steps.x', 101)).get('steps.x');
    expect(setting).toMatchObject({
      value: 101,
      source: 'override',
      hidden: { value: 100, source: 'derived' },
    });
    expect(value('plover', 'steps.x', own('steps.x', 101), resetEdit('steps.x'))).toBe(100);
  });
  it('every option has a value its own rule allows', () => {
    for (const id of ['plover', 'bittern', 'dunlin']) {
      const facts = factsOf(demoMachine(id));
      const settings = derive(facts);
      for (const option of facts.kit.options)
        expect(refusal(option, settings.get(option.key)!.value), `${id} ${option.key}`).toBeUndefined();
    }
  });
});

describe('resolve', () => {
  const problems = (...edits: Parameters<typeof applyEdits>[1]) => {
    const result = resolve(applyEdits(demoMachine('plover'), edits), installed.catalogue);
    return 'problems' in result ? result.problems : [];
  };
  it.each([
    ['board', { path: ['board', 'revision'], value: '9' }, 'at revision "9"'],
    ['kit', { path: ['kit', 'version'], value: '7.0.0' }, 'is installed; known: lantern 0.1.0'],
    ['parts[0].part', { path: ['parts', 0, 'part'], value: 'no-such' }, 'no part "no-such"'],
    [
      'harness.x-switch.leads.signal',
      { path: ['harness', 'x-switch', 'leads', 'signal'], value: 'STOP-X.9' },
      'contacts 1 to 3, not 9',
    ],
    ['harness.x-motor', { path: ['harness', 'x-motor', 'socket'], value: 'M9' }, 'it has M1, M2, M3, M4'],
    ['harness.ghost', { path: ['harness', 'ghost'], value: { socket: 'M1' } }, 'no part "ghost"'],
    ['settings.speed.x.value', own('speed.x', 99999), 'must be from 0.1 to 10000 mm/s'],
    ['settings.nonsense.value', own('nonsense', 1), 'has no option "nonsense"'],
    ['settings.machine.name.value', own('machine.name', 'Größe'), 'plain letters'],
  ])('names %s', (path, edit, text) => {
    expect(problems(edit)).toEqual([{ path, message: expect.stringContaining(text) as string }]);
  });
});

describe('write', () => {
  const files = (...edits: Parameters<typeof applyEdits>[1]) => {
    const facts = factsOf(applyEdits(demoMachine('plover'), edits));
    return new Map(write(facts, derive(facts)).map((file) => [file.path, textOf(file)]));
  };
  it('one changed setting changes one file', () => {
    const before = files();
    const after = files(own('speed.x', 150));
    expect([...after].filter(([path, text]) => before.get(path) !== text).map(([path]) => path)).toEqual([
      'option_drive.h',
    ]);
  });
  it('a moved lead changes the pins of its group and what follows from the new input', () => {
    const after = files({ path: ['harness', 'x-switch', 'leads', 'signal'], value: 'STOP-Z.3' });
    expect(after.get('pins_switches.h')).toContain('#define PIN_X_SWITCH 12 ');
    expect(after.get('option_switches.h')).toContain('#define SWITCH_X_PULL_UP 1 ');
  });
  it('a name cannot break out of its line', () => {
    const text = files(own('machine.name', 'A" B\\')).get('option_identity.h');
    expect(text).toContain('#define MACHINE_NAME "A\' B\\134" ');
  });
  it('a number that the board cannot hold fails the build at its setting', () => {
    const facts = factsOf(demoMachine('plover'));
    const written = (value: number) => {
      const settings = new Map(derive(facts));
      settings.set('speed.x', { ...settings.get('speed.x')!, value });
      return textOf(write(facts, settings).find(({ path }) => path === 'option_drive.h')!);
    };
    for (const value of [1e39, NaN])
      expect(written(value)).toContain(
        `#error "[speed.x] comes out as ${value}, which the board cannot hold"`,
      );
  });
  it('every pin of the table exists on the chip or is not connected', () => {
    const facts = factsOf(demoMachine('plover'));
    for (const row of Object.values(pinTable(facts)).flat())
      expect(
        row.pin === -1 ||
          facts.chip.pin_groups.some((group) => row.pin >= group.pins[0] && row.pin <= group.pins[1]),
      ).toBe(true);
  });
});

describe('the first error', () => {
  const files = [
    {
      path: 'option_drive.h',
      lines: [{ text: '#pragma once' }, { text: '#define STEPS_X', key: 'steps.x' }],
    },
  ];
  it('of a guard names its setting', () => {
    const log = `settings.c:10:1: error: static assertion failed due to requirement '1 <= 0': [speed.x] too fast\nother.c:1:1: error: later`;
    expect(firstError(log, files)).toEqual({
      file: 'settings.c',
      line: 10,
      message: 'too fast',
      key: 'speed.x',
    });
  });
  it('in a generated file leads to the setting of its line', () => {
    expect(firstError('option_drive.h:2:9: error: expected value', files)).toMatchObject({
      key: 'steps.x',
      line: 2,
    });
  });
  it('never throws, whatever the log holds', () => {
    fc.assert(
      fc.property(fc.string(), (log) => {
        firstError(log, files);
      }),
    );
  });
});

describe('sizes', () => {
  it('RAM ends where the last static data ends', () => {
    const map = [
      '    Addr      Off     Size Out     In      Symbol',
      '       -      100       30         a.o:(f)',
      '     800      b66       10 .data',
      '     900        0       20 .bss',
    ].join('\n');
    expect(sizesOf(map, 1000, 2048)).toEqual({
      flashBytes: 1096,
      ramBytes: 0x920,
      stackBytes: 2048,
      bySource: [{ name: 'a.c', bytes: 0x30, ram: 0 }],
    });
  });
  it('tell flash from RAM by source, words that are kept once, and names of an image linked as one', () => {
    const map = [
      '       -        0       90 CODE',
      '       -      100       30         lantern.wasm.lto.o:(heat_tick)',
      '       -      130       10         lantern.wasm.lto.o:(use.12)',
      '     800        0       60 .rodata',
      '     800        0       20         <internal>:(.rodata)',
      '     820        0       40         lantern.wasm.lto.o:(.rodata.ROWS)',
      '     900        0       20 .bss',
      '     900        0       20         lantern.wasm.lto.o:(.bss.now)',
    ].join('\n');
    const sources = sourceOfNames(
      new Map([
        ['heat/heat.c', 'static float now[3];\nvoid heat_tick(void)\n{\n}\nstatic void use(int a)\n{\n}\n'],
        ['motion/moves.c', 'static const int ROWS[] = {1};\nstatic void use(void) {\n}\n'],
      ]),
    );
    const { bySource } = sizesOf(map, 1000, 2048, sources);
    expect(Object.fromEntries(bySource.map(({ name, ...sum }) => [name, sum]))).toEqual({
      'heat/heat.c': { bytes: 0x30, ram: 0x20 },
      'motion/moves.c': { bytes: 0x40, ram: 0 },
      '(of several sources)': { bytes: 0x10, ram: 0 },
      '(words)': { bytes: 0x20, ram: 0 },
    });
  });
});

describe('proof steps', () => {
  const ids = (id: string) => proofSteps(factsOf(demoMachine(id))).map((step) => step.id);
  it('follow the machine: a switch each, a probe where there is one, both guards of each heater, closing last', () => {
    expect(ids('dunlin')).toEqual([
      'identity', 'store', 'cold', 'warm-hotend', 'warm-bed', 'switch-x', 'switch-y', 'switch-z', 'motor-x', 'motor-y',
      'motor-z', 'lamp-lamp', 'heat-hotend', 'heat-bed', 'fan-part', 'motor-e', 'home', 'limits', 'travel', 'place-x',
      'place-y', 'guard-hotend', 'guard-hotend-sensor', 'guard-bed', 'guard-bed-sensor', 'closed',
    ]); // prettier-ignore
    expect(ids('plover')).toEqual(
      expect.arrayContaining(['probe-moves', 'probe', 'probe-alarm', 'fan-hotend']),
    );
    expect(ids('bittern')).toContain('motor-z-pair');
  });
  it('wait for nothing that comes after them, and rest on facts there are', () => {
    for (const id of ['plover', 'bittern', 'dunlin']) {
      const steps = proofSteps(factsOf(demoMachine(id)));
      for (const [index, { after }] of steps.entries())
        for (const first of after) expect(steps.slice(0, index).map((step) => step.id)).toContain(first);
    }
  });
  it('nothing is heated, and nothing homes, before what makes it safe is proven', () => {
    const steps = proofSteps(factsOf(demoMachine('dunlin')));
    const after = (id: string) => steps.find((step) => step.id === id)?.after;
    expect(after('heat-bed')).toEqual(['cold', 'warm-bed']);
    expect(after('guard-bed')).toEqual(['heat-bed']);
    expect(after('home')).toEqual(['switch-x', 'switch-y', 'switch-z', 'motor-x', 'motor-y', 'motor-z']);
  });
});

describe('settings that are new with drivers, map, servos and names', () => {
  const of = (machine: string, ...edits: Edit[]) => {
    const settings = derive(factsOf(applyEdits(demoMachine(machine), edits)));
    return (key: string) => settings.get(key)!;
  };
  it('a mark stands after the name, and a long name gives way to it', () => {
    expect(of('plover', { path: ['mark'], value: '2026-11-25' })('machine.name').value).toBe(
      'Plover 2026-11-25',
    );
    const long = of(
      'plover',
      { path: ['mark'], value: '2026-11-25' },
      { path: ['name'], value: 'P'.repeat(40) },
    );
    expect(String(long('machine.name').value)).toHaveLength(31);
    expect(String(long('machine.name').value)).toMatch(/P 2026-11-25$/);
  });
  it('current is 70 % of the rating for every motor on the driver, and no more than the module stands', () => {
    expect(of('plover')('current.x').value).toBe(0.84);
    expect(of('bittern')('current.z').value).toBe(1.68);
    const bare = of('plover', { path: ['parts', 4, 'cooling'], value: 'bare' })('current.x');
    expect(bare.value).toBe(0.75);
    expect(bare.because).toContain('without a heat sink');
  });
  it('corners by deviation on 32 bits and by jolt on 8', () => {
    const facts = factsOf(demoMachine('plover'));
    expect(derive(facts).get('corner.by')!.value).toBe('deviation');
    expect(derive({ ...facts, chip: { ...facts.chip, word_bits: 8 } }).get('corner.by')!.value).toBe('jolt');
  });
  it('servos count the probe’s, and each has its time', () => {
    expect(of('plover')('servo.count')).toMatchObject({ value: 1, because: 'probe' });
    expect(of('plover')('servo.arrive.a').value).toBe(0.3);
    expect(of('bittern')('servo.count').value).toBe(0);
  });
  it('a map follows the reach, with odd counts, and is off without a probe', () => {
    const plover = of('plover');
    expect(plover('map.x.min').value).toBe(10);
    expect(Number(plover('map.columns').value) % 2).toBe(1);
    expect(of('dunlin')('map.on').value).toBe(false);
  });
  it('every setting says what the kit would say', () => {
    expect(of('plover')('steps.x')).toMatchObject({ value: 100, kit: 80 });
  });
  it('a mistake in a map is refused with its place', () => {
    const bad = (map: object) =>
      machineSchema().validate({ ...demoMachine('plover'), bed_map: map }).error?.message ?? '';
    expect(bad({ xs: [0, 10], ys: [0, 10], z: [[0, 0]] })).toMatch(/a row of heights for every y/);
    expect(
      bad({
        xs: [10, 0],
        ys: [0, 10],
        z: [
          [0, 0],
          [0, 0],
        ],
      }),
    ).toMatch(/must rise/);
    expect(
      bad({
        xs: [0, 10],
        ys: [0, 10],
        z: [
          [0, 0],
          [0, 0],
        ],
      }),
    ).toBe('');
  });
});
