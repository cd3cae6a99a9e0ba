import { type Facts, partFor, partsOf } from '../machine/facts';
import type { Rule } from './derivation';
import { pullUp } from './pullUp';

/** Every servo there is, that of the probe first, with the time it takes to arrive. */
export function servosOf(facts: Facts): { id: string; arrive_s: number | undefined }[] {
  const probes = partsOf(facts, 'probe').filter(({ type }) => type.servo_us !== undefined);
  return [...probes, ...partsOf(facts, 'servo')].map(({ id, type }) => ({ id, arrive_s: type.arrive_s }));
}

/** Names of the servos' settings, in their order. */
export const SERVOS = ['a', 'b', 'c', 'd'] as const;

const reel = (facts: Facts) => partsOf(facts, 'filament-sensor')[0];
const there = (found: unknown, what: string) => ({
  value: found !== undefined,
  because: found ? `there is ${what}` : `there is no ${what.replace(/^an? /, '')}`,
});

/** Settings that follow from servos, fans, filament sensor and display. */
export const extraRules: Rule[] = [
  [
    'servo.count',
    (facts) => {
      const servos = servosOf(facts);
      return {
        value: servos.length,
        because: servos.length > 0 ? servos.map(({ id }) => id).join(', ') : 'there is no servo',
      };
    },
  ],
  ...SERVOS.map((name, index): Rule => [
    `servo.arrive.${name}`,
    (facts) => {
      const servo = servosOf(facts)[index];
      if (!servo) return { value: 0, because: 'there is no such servo' };
      return servo.arrive_s === undefined
        ? undefined
        : { value: servo.arrive_s, because: `${servo.id} takes so long to arrive` };
    },
  ]),
  ['fan.part', (facts) => there(partFor(facts, 'fan', 'part'), 'a part fan')],
  ['filament.sensor', (facts) => there(reel(facts), 'a filament sensor')],
  [
    'filament.reads',
    (facts) => {
      const part = reel(facts);
      if (!part) return undefined;
      return part.type.output === 'switch'
        ? { value: 'high', because: `${part.type.name} opens without filament, and the pull-up shows` }
        : { value: 'low', because: `${part.type.name} pulls its output low without filament` };
    },
  ],
  ['filament.pull-up', (facts) => pullUp(facts, reel(facts))],
  [
    'display.kind',
    (facts) => {
      const type = partsOf(facts, 'display')[0]?.type;
      if (!type) return { value: 'none', because: 'there is no display' };
      return type.shows && { value: type.shows, because: `${type.name} shows ${type.shows}` };
    },
  ],
  [
    'sensor.chamber',
    (facts) => {
      const part = partFor(facts, 'thermistor', 'chamber');
      return part && { value: part.type.id, because: `${part.id} is a ${part.type.name}` };
    },
  ],
  ['guard.chamber', (facts) => there(partFor(facts, 'heater', 'chamber'), 'a chamber heater')],
];
