import type { FormField } from '../tree/formField';
import type { Path } from '../tree/path';
import type { PartKind } from './part';

/** One thing a part's form asks for. */
export type PartField = FormField;
const number = (path: Path, label: string, unit: string, how?: string): PartField => ({ path, is: 'number', label, unit, ...(how && { how }) }); // prettier-ignore
const maybe = (path: Path, label: string, unit: string, how?: string): PartField => ({ ...number(path, label, unit, how), optional: true }); // prettier-ignore
const choice = (path: Path, label: string, choices: Record<string, string>, how?: string): PartField => ({ path, is: 'choice', label, choices, ...(how && { how }) }); // prettier-ignore

const SUPPLY = maybe(
  ['supply_v'],
  'Supply',
  'V',
  'Its label. What has two leads and no electronics has none.',
);
const DRAWS = maybe(
  ['draws_a'],
  'Draws at most',
  'A',
  'Its label; watts ÷ volts, where only watts stand there.',
);
const LEVEL = { low: 'low, near 0 V', high: 'high, near its supply' };

/** What each kind of part is asked for beside its name; its leads come from the part it is begun from. */
export const PART_FORM: Readonly<Record<PartKind, readonly PartField[]>> = {
  motor: [
    number(['full_steps'], 'Full steps a turn', '', '360 divided by the degrees a step on its label: 1.8° is 200, 0.9° is 400.'),
    number(['rated_a'], 'Rated current', 'A', 'Its label, of one winding.'),
    maybe(['ohms'], 'One winding', 'Ω', 'Measure between the two leads that belong together, unplugged.'),
  ],
  driver: [
    choice(['mode'], 'It is set by', { 'stand-alone': 'a pot and jumpers', serial: 'a serial line', select: 'a select line' }),
    number(['max_a'], 'Gives at most, with its heat sink', 'A'),
    maybe(['max_bare_a'], 'Without one', 'A'), maybe(['max_blown_a'], 'With a fan at it', 'A'),
    number(['min_pulse_us'], 'Shortest step pulse', 'µs'),
    maybe(['volts_per_amp'], 'Reference volts for each ampere', 'V', 'Its data; missing where the sense resistor is not known.'),
  ],
  switch: [
    choice(['contact'], 'Left alone its contact is', { 'normally-closed': 'closed', 'normally-open': 'open' }, 'Unplug it and measure: 0 Ω is closed.'),
    { ...choice(['output'], 'It is a sensor, and its output', { 'open-collector': 'only pulls low (open collector)', driven: 'is driven both ways' }, 'With a light or a magnet and three leads. A lever has none: leave it.'), optional: true },
    maybe(['output_v'], 'Its output, high', 'V'), { ...choice(['pressed'], 'While it is pressed its output is', LEVEL), optional: true },
    SUPPLY, DRAWS,
  ],
  probe: [
    choice(['sense'], 'It feels by', { pin: 'a pin that comes down', inductive: 'metal near its face', nozzle: 'the nozzle itself' }),
    choice(['output'], 'Its output', { 'open-collector': 'only pulls low (open collector)', driven: 'is driven both ways' }),
    number(['output_v'], 'Its output, high', 'V'), choice(['triggered'], 'While it is triggered it reads', LEVEL),
    number(['stroke_mm'], 'Stroke', 'mm', 'From where it triggers to where it is pressed in whole; 0 without a pin.'), SUPPLY, DRAWS,
  ],
  thermistor: [
    number(['r25'], 'At 25 °C', 'Ω', 'Measure it unplugged in a room you know the temperature of; or take it from its data.'),
    number(['beta'], 'β', 'K', 'Its data; or out of measured points, below.'),
    number(['max_c'], 'Stands at most', '°C', 'Its data. Glass with bare leads stands more than what is potted.'),
  ],
  heater: [
    number(['volts'], 'Made for', 'V', 'Its label. What the supply gives, where nothing else is known.'),
    number(['watts'], 'Power', 'W', 'Its label. Or measure its ohms cold, plug out: volts × volts ÷ ohms.'),
    number(['max_c'], 'Stands at most', '°C', 'Its data; of a hot end, the hottest the tube inside it stands.'),
    maybe(['body', 'gain_c'], 'At full power it would warm by', '°C', 'How it warms, in three numbers: leave them empty until Calibrate has tuned its PID and says them.'),
    maybe(['body', 'tau_s'], 'Its time constant', 's'), maybe(['body', 'dead_s'], 'It warms late by', 's'),
  ],
  fan: [SUPPLY, DRAWS],
  servo: [SUPPLY, DRAWS, maybe(['arrive_s'], 'Turns from end to end in', 's')],
  'filament-sensor': [choice(['output'], 'It is', { switch: 'a switch', 'open-collector': 'a sensor whose output only pulls low' }), SUPPLY, DRAWS],
  display: [
    number(['ribbon_pins'], 'Signal leads of its ribbon', ''),
    choice(['shows'], 'It shows', { text: 'rows of letters', pixel: 'dots' }),
    { path: ['touched'], is: 'flag', label: 'It is touched, and has no knob', optional: true },
    { ...choice(['firmware'], 'Firmware and pictures', { none: 'none of its own: the board draws all of it', own: 'its own, by its own slot or port' }, 'A slot for a card or a USB socket on the display itself: its own.'), optional: true },
    SUPPLY, DRAWS,
  ],
  lamp: [SUPPLY, DRAWS],
  relay: [
    number(['switches', 'volts_v'], 'Its contacts stand', 'V'), number(['switches', 'amps_a'], 'And carry', 'A'),
    number(['cycle_s'], 'From one switching on to the next, at least', 's', 'A relay with contacts wears: some seconds.'),
    SUPPLY, DRAWS,
  ],
}; // prettier-ignore
