import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parse } from 'yaml';
import { readMachineFile, writeMachineFile } from '../src/formats/machineFile';
import { writeYaml } from '../src/formats/writeYaml';
import { applyEdits } from '../src/machine/edit';
import { demoMachine } from './fixtures/demo';

/** Text that a reader of YAML 1.1 takes for something else when it stands bare. */
const TREACHEROUS = ['no', 'No', 'on', 'off', 'y', 'N', 'yes', 'true', '~', 'null', '010', '0x1F', '1_000', '1:30', '12:30:45', '2026-11-27', '2026-11-27T10:00:00Z', '1e3', '.5', '.inf', '=', '<<', '- a', 'a: b', '# x', '']; // prettier-ignore

const bothReadings = (text: string) => (['1.1', '1.2'] as const).map((version) => parse(text, { version }) as unknown); // prettier-ignore

describe('YAML that is written', () => {
  it('reads the same by both versions of YAML, whatever text is in it', () => {
    const text = fc.oneof(fc.constantFrom(...TREACHEROUS), fc.string({ maxLength: 12 }));
    const value = fc.dictionary(
      // No key of our files is one of these: names are letters, digits and strokes.
      text.filter((key) => key !== '__proto__' && key !== '<<'),
      fc.oneof(text, fc.integer(), fc.boolean(), fc.array(text, { maxLength: 3 })),
      { maxKeys: 5 },
    );
    fc.assert(
      fc.property(value, (given) => {
        const plain: unknown = JSON.parse(JSON.stringify(given));
        expect(bothReadings(writeYaml(given, 80))).toEqual([plain, plain]);
      }),
    );
  });

  it.each(TREACHEROUS)('“%s” stays text', (text) => {
    const value = { name: text, ...(text !== '<<' && { [text]: 1 }) };
    expect(bothReadings(writeYaml(value, 80))).toEqual([value, value]);
  });

  it('a machine called No comes back as it went, also for a reader of the older version', () => {
    const machine = applyEdits(demoMachine('plover'), [
      { path: ['name'], value: 'No' },
      { path: ['mark'], value: '1e3' },
      { path: ['board', 'revision'], value: '010' },
    ]);
    const text = writeMachineFile(machine);
    expect(readMachineFile(text)).toEqual({ value: machine });
    expect(bothReadings(text)).toEqual([machine, machine]);
    expect(text).not.toMatch(/^%YAML|^---/m);
  });
});
