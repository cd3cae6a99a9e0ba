import { describe, expect, it } from 'vitest';
import { effortInWords } from '../src/stations/build/effortInWords';

describe('what more compiler effort gives and costs', () => {
  const effort = { key: 'compiler.effort', value: 'across-sources', saves: { flash: 1234, ram: 1 } };
  it('is told in bytes and in time, as they were measured', () => {
    expect(effortInWords({ ...effort, linkMs: { plain: 140, harder: 2449 } })).toBe(
      'All sources once more as one: 1,234 bytes of flash and 1 byte of RAM become free, as built. Linking, which every change asks for, then takes 2.4 s instead of 0.1 s, as measured here.',
    );
  });
  it('says that its time was not measured where it was not', () => {
    expect(effortInWords(effort)).toContain('What it costs in time was not measured: measure again.');
  });
});
