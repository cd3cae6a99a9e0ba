import { liftingResistors } from '../circuit/circuit';
import { signalsRead } from '../circuit/pinTable';
import { pinGroup } from '../board/chip';
import type { Spoken } from '../finding/finding';
import { adcToC, thermistorOhms } from '../heat/thermistor';
import { bodyCalled } from '../machine/bodyCalled';
import { type Facts, partFor } from '../machine/facts';
import { WARMED } from '../machine/machine';
import { heatKey } from '../settings/heatKey';
import { sensorInput, thermistorsOf } from '../settings/sensorInput';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';

/** Thermistors on a pin that measures, with what the board has there. */
const measured = (facts: Facts) =>
  signalsRead(facts).flatMap(({ part, pin, at, where }) => {
    // Another pin is told of as one that cannot measure.
    if (part.type.kind !== 'thermistor' || !pinGroup(facts.chip, pin)?.can.includes('adc')) return [];
    return [{ part, at, where, resistors: liftingResistors(facts, part, pin) }];
  });

function noPullUp(facts: Facts): Spoken[] {
  const { name, revision } = facts.board;
  return measured(facts).flatMap(({ part, at, where, resistors }): Spoken[] => {
    if (resistors.length > 0) return [];
    return [
      {
        subject: { kind: 'part', id: part.id },
        what: `${part.id} is on ${at}, where no resistor is known of.`,
        why: 'A thermistor reads nothing without one, and where there is one that nobody described every temperature is reckoned wrong. Say at the board what it is, or give the sensor another contact.',
        evidence: [`${name} rev ${revision}: ${where} has no resistor`],
      },
    ];
  });
}

function otherRail(facts: Facts): Spoken[] {
  const { chip } = facts;
  return measured(facts).flatMap(({ part, at, where, resistors }): Spoken[] => {
    const other = resistors.find(({ volts }) => volts !== chip.level_v);
    if (!other) return [];
    return [
      {
        subject: { kind: 'part', id: part.id },
        what: `The resistor of ${part.id} at ${at} goes to ${other.volts} V; ${chip.name} measures against ${chip.level_v} V.`,
        why: 'Temperatures are reckoned as if both were the same: each would be wrong, and an open sensor puts the full voltage on the pin. Measure it unpowered, and say at the board what it is.',
        evidence: [`${where}: ${other.ohms} Ω to ${other.volts} V`, `${chip.name}: ${chip.level_v} V`],
      },
    ];
  });
} // prettier-ignore

/** A room in which a machine is switched on, °C. */
const ROOM_C = 20;
/** A count may be so many degrees: control and guard tell no smaller steps apart. */
const COARSE_C = 3;

/** A sensor whose resistance is so far from that of its input that few counts are left where it is used. */
function coarse(facts: Facts, settings: Settings): Spoken[] {
  return WARMED.flatMap((body): Spoken[] => {
    const of = heatKey(body);
    const part = partFor(facts, 'thermistor', body);
    const type = thermistorsOf(facts.catalogue).find(({ id }) => id === settings.get(`sensor.${of}`)?.value);
    if (!part || !type || !partFor(facts, 'heater', body)) return [];
    const { bits, pullupOhms } = sensorInput(facts, of);
    const stepAt = (c: number) => {
      const ohms = thermistorOhms(type, c);
      const raw = ((2 ** bits - 1) * ohms) / (ohms + pullupOhms);
      return { c, step: adcToC.ofChecked({ raw, bits, pullupOhms, ...type }).degreesPerCount ?? Infinity };
    };
    const highest = numberOf(settings, `heat.${of}.max`);
    const [worst] = [ROOM_C, highest].map(stepAt).sort((one, other) => other.step - one.step);
    if (!worst || worst.step <= COARSE_C) return [];
    return [
      {
        subject: { kind: 'part', id: part.id },
        what: `At ${worst.c} °C one count of the ${bodyCalled(body)} sensor is ${worst.step.toFixed(1)} °C.`,
        why: `Control and guard tell nothing smaller apart, and a small error of the input is a large one of the temperature. A sensor with ${worst.c > ROOM_C ? 'more' : 'less'} resistance reads finer there.`,
        evidence: [
          `${type.name}: ${Math.round(thermistorOhms(type, worst.c))} Ω at ${worst.c} °C`,
          `${facts.chip.name}: ${bits} bits, under ${pullupOhms} Ω`,
        ],
      },
    ];
  });
}

/** Whether temperatures can be read where a sensor sits. */
export const sensorChecks: Check[] = [
  { id: 'sensor.no-pull-up', severity: 'stop', run: noPullUp },
  { id: 'sensor.other-rail', severity: 'stop', run: otherRail },
  { id: 'sensor.coarse', severity: 'mend', run: coarse },
];
