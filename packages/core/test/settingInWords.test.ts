import { describe, expect, it } from 'vitest';
import { optionOf } from '../src/kit/optionOf';
import { settingInWords } from '../src/kit/settingInWords';
import { installed } from './fixtures/demo';

const [kit] = installed.catalogue.kits;

describe('a setting in words', () => {
  it('has its unit behind a number, and none behind a word', () => {
    const inWords = (key: string, value: number | boolean | string) =>
      settingInWords(optionOf(kit!, key), value);
    expect(inWords('heat.bed.max', 85)).toBe('85 °C');
    expect(inWords('corner.deviation', 0.02)).toBe('0.02 mm');
    expect(inWords('card.print', false)).toBe('off');
    expect(inWords('driver.line', 'serial')).toBe('serial');
  });
  it('of which the kit knows nothing is told as it is', () => {
    expect(optionOf(kit!, 'toString')).toBeUndefined();
    expect(settingInWords(optionOf(kit!, 'gone.long.ago'), 4)).toBe('4');
  });
});
