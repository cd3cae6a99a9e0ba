import { type Capability, type Chip, pinGroup } from '../board/chip';

/** What a pin decided by hand must be able to do, by the end of its row's name. */
const NEEDS: { row: RegExp; needs: Capability; words: string }[] = [
  { row: /-servo$/, needs: 'pwm', words: 'give pulses' },
  { row: /-sensor$/, needs: 'adc', words: 'measure a voltage' },
  { row: /-(switch|signal)$/, needs: 'in', words: 'be read' },
  { row: /-(heater|step|dir|enable)$/, needs: 'out', words: 'be switched' },
];

/** Why a pin cannot serve a row of the pin table; undefined when it can, or when nothing is to be connected (−1). */
export function ownPinRefusal(chip: Chip, row: string, pin: number): string | undefined {
  if (pin === -1) return undefined;
  const group = pinGroup(chip, pin);
  if (!group) return `${chip.name} has no pin ${pin}`;
  const rule = NEEDS.find((entry) => entry.row.test(row));
  return !rule || group.can.includes(rule.needs)
    ? undefined
    : `p${pin} of ${chip.name} cannot ${rule.words}; it can do ${group.can.join(', ')}`;
}
