import { optionOf } from '@jolly/core/kit/optionOf';
import { describe, expect, it } from 'vitest';
import { installed } from '../../core/test/fixtures/demo';
import { wantedValue } from '../src/stations/fleet/wantedValue';

const [kit] = installed.catalogue.kits;
const wanted = (key: string, text: string) => wantedValue(optionOf(kit!, key)!, text);

describe('a value wanted on several machines', () => {
  it('is a number in the unit of its setting, however it is typed', () => {
    expect(wanted('heat.bed.max', '85')).toBe(85);
    expect(wanted('corner.deviation', '0,02')).toBe(0.02);
    expect(wanted('travel.x.max', '9 1/2 in')).toBe(241.3);
    for (const nonsense of ['warm', '85 mm', '']) expect(wanted('heat.bed.max', nonsense)).toBeUndefined();
  });
  it('of a switch is on or off, and of a choice what is listed', () => {
    expect([wanted('card.print', 'off'), wanted('card.print', 'on'), wanted('card.print', '1')]).toEqual([
      false,
      true,
      undefined,
    ]);
    expect([wanted('driver.line', 'pot'), wanted('driver.line', 'pots')]).toEqual(['pot', undefined]);
  });
  it('of a name is the text itself', () => {
    expect(wanted('machine.name', ' Whimbrel ')).toBe('Whimbrel');
  });
});
