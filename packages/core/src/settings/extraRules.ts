import { type Facts, partFor, partsOf } from '../machine/facts';
import { SERVOS, servosOf } from '../machine/servos';
import { spareSensor } from '../machine/spareSensor';
import type { Rule } from './derivation';
import { pullUp } from './pullUp';

const reel = (facts: Facts) => partsOf(facts, 'filament-sensor')[0];
const there = (found: unknown, what: string) => ({
  value: found !== undefined,
  because: found ? `there is ${what}` : `no ${what.replace(/^an? /, '')} is known`,
});

/** Settings that follow from servos, fans, filament sensor and display. */
export const extraRules: Rule[] = [
  [
    'servo.count',
    (facts) => {
      const servos = servosOf(facts);
      return {
        value: servos.length,
        because: servos.length > 0 ? servos.map(({ id }) => id).join(', ') : 'no servo is known',
      };
    },
  ],
  ...SERVOS.map((name, index): Rule => [
    `servo.arrive.${name}`,
    (facts) => {
      const servo = servosOf(facts)[index];
      if (!servo) return { value: 0, because: 'no such servo is known' };
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
      if (!type) return { value: 'none', because: 'no display is known' };
      return type.shows && { value: type.shows, because: `${type.name} shows ${type.shows}` };
    },
  ],
  [
    'display.touch',
    (facts) => {
      const type = partsOf(facts, 'display')[0]?.type;
      if (!type) return { value: false, because: 'no display is known' };
      return type.touched
        ? { value: true, because: `${type.name} is touched and has no knob` }
        : { value: false, because: `${type.name} has a knob` };
    },
  ],
  ['sensor.spare', (facts) => there(spareSensor(facts), 'a second hot-end sensor')],
  [
    'sensor.second',
    (facts) => {
      const part = spareSensor(facts);
      return part && { value: part.type.id, because: `${part.id} is a ${part.type.name}` };
    },
  ],
  ['lamp.on', (facts) => there(partsOf(facts, 'lamp')[0], 'a lamp')],
];
