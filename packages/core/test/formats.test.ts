import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeImage, readImage } from '../src/image/imageHeader';
import { parseReply } from '../src/bringup/reply';
import { readCatalogue } from '../src/formats/catalogueFiles';
import { readMachineFile, writeMachineFile } from '../src/formats/machineFile';
import { demoMachine, installed, machineText } from './fixtures/demo';

describe('machine files', () => {
  it.each(['plover', 'bittern', 'dunlin'])('%s survives writing and reading', (id) => {
    expect(readMachineFile(writeMachineFile(demoMachine(id)))).toEqual({ value: demoMachine(id) });
  });
  it.each([
    ['an unknown key', (text: string) => text.replace('supply:', 'suply:'), '"suply" is not allowed'],
    ['a missing part', (text: string) => text.replace(/^supply:.*$/m, ''), '"supply" is required'],
    [
      'a wrong type',
      (text: string) => text.replace('volts_v: 24', 'volts_v: twenty'),
      '"supply.volts_v" must be a number',
    ],
    ['a travel that falls', (text: string) => text.replace('x: [-6, 236]', 'x: [236, -6]'), 'must rise'],
    ['a doubled key', (text: string) => text.replace('name: Plover', 'name: Plover\nname: Other'), 'unique'],
    [
      'a drive of two kinds',
      (text: string) => text.replace('lead_mm: 8', 'teeth: 20'),
      '"axes.z.lead_mm" is required',
    ],
    ['a newer version', (text: string) => text.replace('machine/1', 'machine/2'), 'Update Jolly Cog'],
    ['broken YAML', (text: string) => text.replace('supply: {', 'supply: {{'), ''],
  ])('%s is refused with its place', (_what, spoil, text) => {
    const read = readMachineFile(spoil(machineText('plover')));
    if ('value' in read) throw new Error('it was accepted');
    expect(read.problems[0]?.line).toBeGreaterThanOrEqual(1);
    expect(read.problems.map((problem) => problem.message).join('\n')).toContain(text);
  });
  it('names the line and column', () => {
    const text = machineText('plover').replace('volts_v: 24', 'volts_v: -1');
    const read = readMachineFile(text);
    const line = text.split('\n').findIndex((entry) => entry.includes('volts_v: -1')) + 1;
    expect(read).toMatchObject({ problems: [{ line, column: 11, path: 'supply.volts_v' }] });
  });
  it('refuses alias bombs, depth and size', () => {
    const bomb = `a: &a [x,x,x,x,x,x,x,x,x]\n${'bcdefgh'
      .split('')
      .map((letter, i) => `${letter}: &${letter} [${Array(9).fill(`*${'abcdefg'[i]}`).join(',')}]`)
      .join('\n')}`;
    for (const text of [bomb, '['.repeat(60) + ']'.repeat(60), 'x'.repeat(2_000_001)])
      expect(readMachineFile(text)).toHaveProperty('problems');
  });
  it('reads anything without throwing', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.string().map((noise) => machineText('dunlin').replace('frame:', noise)),
        ),
        (text) => {
          readMachineFile(text);
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe('the catalogue', () => {
  it('as installed has no mistakes', () => {
    expect(installed.problems).toEqual([]);
  });
  it('names file and line of a mistake and keeps the rest', () => {
    const text =
      'jolly: part/1\nid: ok\nname: Ok\nkind: fan\nleads: []\n---\njolly: part/1\nid: bad\nname: Bad\nkind: motor\nleads: []\nfull_steps: -5\nrated_a: 1\n';
    const { catalogue, problems } = readCatalogue([{ path: 'p.yaml', text }]);
    expect(catalogue.parts.map((part) => part.id)).toEqual(['ok']);
    expect(problems).toMatchObject([{ file: 'p.yaml', line: 12, path: 'full_steps' }]);
  });
});

describe('images', () => {
  const header = {
    kitVersion: '0.1.0',
    target: 'alder-a32-1-1',
    loadAddress: 0x8000,
    buildId: '1a2b3c4d',
    name: 'Plover',
  };
  it('come back as they were made', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 500 }), (code) => {
        const read = readImage(makeImage(header, code));
        if ('problem' in read) throw new Error(read.problem);
        expect(read.header).toEqual(header);
        expect([...read.code]).toEqual([...code]);
      }),
    );
  });
  it('any flipped bit is noticed', () => {
    const image = makeImage(header, Uint8Array.of(1, 2, 3, 4, 5));
    fc.assert(
      fc.property(fc.nat(image.length - 1), fc.integer({ min: 0, max: 7 }), (at, bit) => {
        const damaged = Uint8Array.from(image);
        damaged[at]! ^= 1 << bit;
        expect(readImage(damaged)).toHaveProperty('problem');
      }),
    );
  });
  it('names what is wrong', () => {
    const image = makeImage(header, Uint8Array.of(1, 2, 3));
    expect(readImage(new Uint8Array(0))).toEqual({ problem: 'empty' });
    expect(readImage(new Uint8Array(200).fill(0xff))).toEqual({ problem: 'empty' });
    expect(readImage(image.subarray(0, 50))).toEqual({ problem: 'no header' });
    expect(readImage(image.subarray(0, image.length - 1))).toEqual({ problem: 'cut short' });
  });
  it('any bytes can be read', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        expect(readImage(bytes)).toHaveProperty('problem');
      }),
    );
  });
});

describe('replies', () => {
  it('are taken apart', () => {
    expect(parseReply('lantern name="Plover A32" kit=0.1.0')).toEqual({
      word: 'lantern',
      values: { name: 'Plover A32', kit: '0.1.0' },
    });
  });
  it('any line can be read', () => {
    fc.assert(
      fc.property(fc.string(), (line) => {
        parseReply(line);
      }),
    );
  });
});
