import type { FormField, FormList } from '../tree/formField';
import { isNamed, isRecord, valueAt } from '../tree/path';
import { DRIVER_MODES } from './jumper';
import type { RouteKind } from './route';

/** A part of the form of a board: fields of the board itself, or one of its lists. */
export interface BoardPage {
  id: string;
  title: string;
  hint: string;
  /** Key of the file that its complaints begin with. */
  keys: readonly string[];
  fields: readonly FormField[];
}

const RAILS = { '3v3': '3.3 V', '5v': '5 V', '12v': '12 V', vin: 'what feeds the board' };
const AXES = { x: 'X', y: 'Y', z: 'Z', e: 'the extruder' };
const place = (label = 'Where', how?: string): FormField => ({ path: ['at_mm'], is: 'place', label, ...(how && { how }) }); // prettier-ignore
const pin = (path: string | string[], label: string, how?: string): FormField => ({ path: [path].flat(), is: 'number', label, ...(how && { how }) }); // prettier-ignore
const maybePin = (path: string, label: string, how?: string): FormField => ({ ...pin(path, label, how), optional: true }); // prettier-ignore
const text = (path: string | string[], label: string, how?: string): FormField => ({ path: [path].flat(), is: 'text', label, ...(how && { how }) }); // prettier-ignore
const sentence = (path: string, label: string): FormField => ({ path: [path], is: 'sentence', label });
const at =
  (...path: string[]) =>
  (thing: unknown) =>
    valueAt(thing, path);

/** Driver places stand in a row: the next one beside the last, its motor plug of the same kind; its pins are its own. */
const APART_MM = 18;
function besideLast(count: number, last?: unknown): object {
  const id = `M${count + 1}`;
  if (!isRecord(last)) return { id, at_mm: { x: 8, y: 30 } };
  const shift = (place: unknown) =>
    isRecord(place) ? { ...place, x: Number(place['x'] ?? 0) + APART_MM } : place;
  const { motor } = last;
  return {
    id,
    at_mm: shift(last['at_mm']),
    ...(isRecord(motor) && { motor: { ...motor, at_mm: shift(motor['at_mm']) } }),
  };
}

const SOCKETS: FormList = {
  one: 'driver place',
  how: 'Step, direction and enable are chip pins: out of the board’s pin list.',
  fresh: besideLast,
  fields: [
    text('id', 'Printed beside it'), place('Its left front corner'),
    pin('step', 'Step pin'), pin('dir', 'Direction pin'), pin('enable', 'Enable pin'),
    { path: ['for'], is: 'choice', label: 'Axis printed beside it', choices: AXES, optional: true },
    { ...text(['serial', 'line'], 'Serial line', 'Where its drivers are set by one.'), optional: true },
    { path: ['serial', 'address'], is: 'number', label: 'Address on that line', when: (thing) => at('serial', 'line')(thing) !== undefined },
    maybePin('select', 'Select pin'), maybePin('stall', 'Input of its stall output'),
    { path: ['motor', 'at_mm'], is: 'place', label: 'Motor plug, contact 1', optional: true },
    { ...text(['motor', 'family'], 'Motor plug family'), when: (thing) => at('motor')(thing) !== undefined },
    { path: ['motor', 'pitch_mm'], is: 'number', unit: 'mm', label: 'Its pitch', when: (thing) => at('motor')(thing) !== undefined },
    { path: ['motor', 'order'], is: 'words', label: 'Its wires in order', how: 'a1, a2, b1, b2: two pairs, a and b.', when: (thing) => at('motor')(thing) !== undefined },
  ],
}; // prettier-ignore

const POSITIONS: FormList = {
  one: 'position',
  fresh: (count) => ({ id: count === 0 ? 'open' : count === 1 ? 'bridged' : `p${count + 1}` }),
  fields: [text('id', 'Name'), sentence('means', 'What it does')],
};
/** What a jumper decides, and what each of its positions must say of it. */
const DECIDES = {
  'usb power': { path: 'power', choices: { usb: 'the logic runs from USB', supply: 'from the supply' } },
  'fan voltage': { path: 'gives', choices: RAILS },
  'driver mode': { path: 'mode', choices: Object.fromEntries(DRIVER_MODES.map((mode) => [mode, mode])) },
  'stall line': { path: 'stall', choices: { tied: 'tied to the switch input', parted: 'parted from it' } },
};
const positionsOf = ([sets, { path, choices }]: [string, { path: string; choices: Record<string, string> }]): FormField => ({
  path: ['positions'], is: 'list', label: 'Positions', when: (thing) => at('sets')(thing) === sets,
  each: { ...POSITIONS, fields: [...POSITIONS.fields, { path: [path], is: 'choice', label: 'So', choices }] },
}); // prettier-ignore

const JUMPERS: FormList = {
  one: 'jumper',
  fresh: (count) => ({ id: `J${count + 1}`, at_mm: { x: 10, y: 10 }, sets: 'usb power', positions: [] }),
  fields: [
    text('id', 'Printed beside it'), place(),
    { path: ['sets'], is: 'choice', label: 'It decides', choices: { 'usb power': 'what the logic runs from', 'fan voltage': 'the volts of a header', 'driver mode': 'how a driver is set', 'stall line': 'whether a stall output is tied' } },
    { ...text('of', 'Of which header or driver place'), when: (thing) => at('sets')(thing) !== 'usb power' },
    { path: ['under_module'], is: 'flag', label: 'Hidden once the driver is in', optional: true },
    ...Object.entries(DECIDES).map(positionsOf),
  ],
}; // prettier-ignore

const INPUTS: FormList = {
  one: 'input with a resistor',
  fresh: (_count, last) => (isRecord(last) ? { ...last, pin: undefined } : {}),
  fields: [
    pin('pin', 'Pin'),
    { path: ['pull_up_ohms'], is: 'number', unit: 'Ω', label: 'Resistor', how: 'Unpowered, from the contact to 3.3 V (or 5 V). Printed on small ones: 103 is 10,000 Ω, 472 is 4,700 Ω.' },
    { path: ['to_v'], is: 'number', unit: 'V', label: 'To' },
  ],
}; // prettier-ignore
const RAIL_LIST: FormList = {
  one: 'rail',
  fresh: () => ({}),
  fields: [
    { path: ['source'], is: 'choice', label: 'Rail', choices: RAILS },
    { path: ['max_a'], is: 'number', unit: 'A', label: 'Gives all headers together at most' },
  ],
}; // prettier-ignore
const USES: FormList = {
  one: 'own use of pins',
  fresh: () => ({}),
  fields: [
    { path: ['by'], is: 'choice', label: 'By', choices: { card: 'the card slot', 'driver select': 'driver select', beeper: 'the beeper', 'boot strap': 'the boot strap' } },
    { path: ['pins'], is: 'numbers', label: 'Pins' },
    sentence('lost', 'What is lost when they are taken'),
  ],
}; // prettier-ignore
const FAULTS: FormList = {
  one: 'known fault',
  fresh: (count) => ({ id: `fault-${count + 1}` }),
  fields: [
    sentence('what', 'What happens'), { path: ['pins'], is: 'numbers', label: 'Pins' },
    { path: ['hits'], is: 'choice', label: 'It hits', choices: { any: 'every sensor', 'open-collector': 'those that only pull low' } },
    { path: ['sure'], is: 'choice', label: 'How sure', choices: { proven: 'proven', reported: 'reported', suspected: 'suspected' } },
    sentence('way_out', 'The way out'),
  ],
}; // prettier-ignore
const TELLS: FormList = {
  one: 'thing that tells this revision',
  fresh: (count) => ({ id: `tell-${count + 1}`, at_mm: { x: 10, y: 10 } }),
  fields: [sentence('look', 'Look at'), place(), text('says', 'What is seen there on this one')],
};

/** A field that only routes of these kinds have. */
const of = (kinds: readonly RouteKind[], field: FormField): FormField => ({
  ...field,
  when: (route) => kinds.some((kind) => kind === at('kind')(route)) && (field.when?.(route) ?? true),
});
const CARDS = ['card', 'card-over-usb'] as const;
const WIRED = ['programmer', 'probe'] as const;
const USB = ['drive', 'update-class'] as const;

const ROUTES: FormList = {
  one: 'route',
  how: 'The first is the one to take.',
  fresh: (_count, last) => ({ kind: 'card', rule: { kind: 'any', extension: 'BIN' }, ...(isRecord(last) && { load_address: last['load_address'] }) }),
  fields: [
    { path: ['kind'], is: 'choice', label: 'By', choices: { card: 'a card in its slot', 'card-over-usb': 'its card, shown over USB', serial: 'USB serial, to a bootloader', programmer: 'a programmer, six wires', probe: 'a debug probe, three wires', drive: 'a USB drive it shows itself as', 'update-class': 'the USB class for updates', host: 'the host that drives it' } },
    of(CARDS, { path: ['rule', 'kind'], is: 'choice', label: 'Name of the file', choices: { any: 'any', fixed: 'one it asks for' } }),
    of(CARDS, { ...text(['rule', 'name'], 'That name'), when: (thing) => at('rule', 'kind')(thing) === 'fixed' }),
    of(CARDS, text(['rule', 'extension'], 'Ending')),
    of(CARDS, { path: ['rule', 'ignoresRepeat'], is: 'flag', label: 'A name it has seen before is ignored' }),
    of(CARDS, { path: ['rule', 'renames'], is: 'flag', label: 'It renames the file it has taken' }),
    of(CARDS, { path: ['max_card_gb'], is: 'number', unit: 'GB', label: 'Largest card it reads' }),
    of(['serial'], { path: ['baud'], is: 'number', label: 'Baud of its bootloader' }),
    of(WIRED, { path: ['pads', 'at_mm'], is: 'place', label: 'Pads, the first' }),
    of(WIRED, { path: ['pads', 'columns'], is: 'number', label: 'Pads in a row' }),
    of(WIRED, { path: ['pads', 'pitch_mm'], is: 'number', unit: 'mm', label: 'From pad to pad' }),
    of(WIRED, { path: ['pads', 'labels'], is: 'words', label: 'Printed beside them', how: 'Row by row, parted by commas.' }),
    of(WIRED, { path: ['pads', 'wires'], is: 'words', label: 'What they are', how: 'In the same order: to-chip, from-chip, clock, data, reset, supply, ground.' }),
    of(USB, sentence('boot', 'How its loader is started')),
    of(USB, { path: ['in_rom'], is: 'flag', label: 'Its loader lies in ROM', optional: true }),
    of(['drive'], text('label', 'What the drive is called')),
    { path: ['load_address'], is: 'number', label: 'Bytes of its bootloader before the image', how: 'Out of its description; 0 where it has none. Written wrong, the board stays silent.' },
    sentence('evidence', 'How one sees that it was taken'),
  ],
}; // prettier-ignore

const list = (key: string, label: string, each: FormList, optional?: true): FormField => ({ path: [key], is: 'list', label, each, ...(optional && { optional }) }); // prettier-ignore

/** What the form of a board asks beside its headers, page by page; the whole of a board file. */
export const BOARD_FORM: readonly BoardPage[] = [
  {
    id: 'board', title: 'Board', hint: 'What is printed on it, its size, its chip.',
    keys: ['id', 'name', 'revision', 'chip', 'outline_mm', 'input_v', 'print', 'drivers', 'host_serial', 'print_at_mm', 'chip_at_mm', 'holes_mm'],
    fields: [
      text('name', 'Name'), text('revision', 'Revision', 'Printed small, often beside the name; 1 where there is none.'),
      { path: ['print'], is: 'words', label: 'Printed on it', how: 'Line by line, parted by commas.' },
      { path: ['outline_mm', 'x'], is: 'number', unit: 'mm', label: 'Width' }, { path: ['outline_mm', 'y'], is: 'number', unit: 'mm', label: 'Depth' },
      { path: ['input_v'], is: 'numbers', label: 'Supplies it may have', unit: 'V' },
      { path: ['drivers'], is: 'choice', label: 'Its drivers are', choices: { 'plugged in': 'plugged in', soldered: 'soldered' } },
      pin(['host_serial', 'receive'], 'Pin of the host’s line, receiving'), pin(['host_serial', 'send'], 'Pin of the host’s line, sending'),
      { path: ['chip_at_mm'], is: 'place', label: 'The chip, its middle' }, { path: ['print_at_mm'], is: 'place', label: 'The print, its middle' },
      { path: ['holes_mm'], is: 'list', label: 'Holes', each: { one: 'hole', fresh: () => ({ x: 4, y: 4 }), fields: [{ path: [], is: 'place', label: 'Its middle' }] } },
    ],
  },
  { id: 'sockets', title: 'Driver places', hint: 'Where drivers sit, and where their motors are plugged in.', keys: ['sockets'], fields: [list('sockets', 'Driver places', SOCKETS)] },
  { id: 'jumpers', title: 'Jumpers', hint: 'What each decides. One that sits wrong can destroy what is plugged in.', keys: ['jumpers'], fields: [list('jumpers', 'Jumpers', JUMPERS, true)] },
  {
    id: 'rails', title: 'Rails, inputs', hint: 'What the board gives by itself, and which inputs have a resistor: a thermistor reads nothing without one.',
    keys: ['rails', 'inputs', 'uses'], fields: [list('rails', 'Rails', RAIL_LIST, true), list('inputs', 'Inputs', INPUTS), list('uses', 'Pins the board needs itself', USES, true)],
  },
  { id: 'card', title: 'Card and boot', hint: 'How it takes an image.', keys: ['routes', 'sold_bare'], fields: [list('routes', 'Routes', ROUTES), { path: ['sold_bare'], is: 'flag', label: 'It is sold without a bootloader', optional: true }] },
  { id: 'faults', title: 'Faults, tells', hint: 'What is known to go wrong with it, and what tells its revisions apart.', keys: ['faults', 'tells'], fields: [list('faults', 'Known faults', FAULTS, true), list('tells', 'Tells', TELLS)] },
]; // prettier-ignore

/** What is asked of a header beside its name, its purpose and its contacts. */
export const HEADER_FORM: readonly FormField[] = [
  { path: ['at_mm'], is: 'place', label: 'Contact 1' },
  { path: ['runs'], is: 'choice', label: 'Contact 2 lies', choices: { right: 'to the right', up: 'towards the back' } },
  { path: ['pitch_mm'], is: 'number', unit: 'mm', label: 'From contact to contact' },
  { path: ['max_a'], is: 'number', unit: 'A', label: 'Gives at most', optional: true },
  { path: ['faces'], is: 'choice', label: 'The plug comes out', optional: true, choices: { front: 'to the front', back: 'to the back', left: 'to the left', right: 'to the right' } },
  { path: ['first_because'], is: 'sentence', label: 'Wired before the rest, because', optional: true },
]; // prettier-ignore
const HEADERS = list('headers', 'Headers', {
  one: 'header',
  fresh: () => ({}),
  fields: [...HEADER_FORM, text('id', 'Name'), text('for', 'For'), text('family', 'Plug family'), text('contacts', 'Contacts')],
}); // prettier-ignore

const programmed = (chip: unknown) => at('programming', 'signature')(chip) !== undefined;
/** What the form of a chip asks: the whole of a chip file. */
export const CHIP_FORM: readonly FormField[] = [
  text('name', 'Name'), text('marking', 'Printed on it'),
  { path: ['word_bits'], is: 'choice', label: 'Bits of a word', numeric: true, choices: { '8': '8', '32': '32' }, how: 'Which compiler builds for it.' },
  { path: ['clock_hz'], is: 'number', unit: 'Hz', label: 'Clock' },
  { path: ['flash_bytes'], is: 'number', unit: 'bytes', label: 'Room for an image', how: 'The flash, less its bootloader.' },
  { path: ['ram_bytes'], is: 'number', unit: 'bytes', label: 'RAM' },
  { path: ['flash_at'], is: 'number', label: 'First address of the flash' }, { path: ['ram_at'], is: 'number', label: 'First address of the RAM' },
  { path: ['uf2_family'], is: 'number', label: 'UF2 family', optional: true, how: 'The number by which its drive knows blocks that are for it, written without 0x.' },
  { path: ['vector'], is: 'choice', label: 'An image begins with', choices: { entry: 'the entry address', 'stack and entry': 'where the stack starts, then the entry' } },
  { path: ['gives'], is: 'words', label: 'What can be read out of it', how: 'image, bootloader, options, store; empty where nothing can.' },
  { ...sentence('read_out_caution', 'Caution at reading out'), optional: true },
  { ...text(['programming', 'signature'], 'Its signature', 'Hexadecimal, as a programmer tells it.'), optional: true },
  { path: ['programming', 'page_bytes'], is: 'number', unit: 'bytes', label: 'A page of its flash', when: programmed },
  { path: ['programming', 'locked_as_sold'], is: 'flag', label: 'Its bootloader is locked as it is sold', optional: true, when: programmed },
  { path: ['programming', 'unlock_erases'], is: 'flag', label: 'Unlocking erases all of it', optional: true, when: programmed },
  { path: ['store', 'kind'], is: 'choice', label: 'Settings are stored in', choices: { eeprom: 'an EEPROM', emulated: 'a part of the flash' } },
  { path: ['store', 'bytes'], is: 'number', unit: 'bytes', label: 'Room for settings' },
  { path: ['store', 'writes'], is: 'number', label: 'Writes that a place of it stands', optional: true, how: 'From its data sheet.' },
  { path: ['adc_bits'], is: 'number', label: 'Bits of its converter' }, { path: ['level_v'], is: 'number', unit: 'V', label: 'Its logic runs at' },
  { path: ['step_rate_hz'], is: 'number', unit: 'Hz', label: 'Steps a second at most' },
  { path: ['interrupt_lines'], is: 'number', label: 'Shared interrupt lines', optional: true, how: '16 says that pins with the same remainder by 16 share one.' },
  {
    path: ['pin_groups'], is: 'list', label: 'Pins',
    each: {
      one: 'group of pins', fresh: () => ({}),
      fields: [
        { path: ['pins'], is: 'numbers', label: 'First and last' },
        { path: ['can'], is: 'words', label: 'They can', how: 'in, out, adc, pwm, uart' },
        { path: ['tolerates_v'], is: 'number', unit: 'V', label: 'Tolerate' },
        { path: ['timer'], is: 'number', label: 'Timer they share', optional: true },
      ],
    },
  },
]; // prettier-ignore

/** What is asked beside the tables. */
const NAMES: Readonly<Record<string, string>> = { chip: 'Chip' };

/**
 * What is missing or wrong, in the words of the form: "M1, Step pin missing". Undefined for what follows from other
 * answers and is asked nowhere (the id, what images are built for).
 */
export function problemWords(
  board: unknown,
  { path, message }: { path: string; message: string },
): string | undefined {
  const steps = path.split('.');
  if (path === 'id' || steps.at(-1) === 'target' || path === 'jolly') return undefined;
  const missing = / is (required|not allowed to be empty)$/.test(message);
  const names: string[] = [];
  let fields: readonly FormField[] = [HEADERS, ...BOARD_FORM.flatMap((page) => page.fields)];
  for (let at = 0; at < steps.length;) {
    const field = fields.find((one) => one.path.length > 0 && one.path.every((step, index) => String(step) === steps[at + index])); // prettier-ignore
    if (!field) {
      const within = fields.filter(({ path: long }) => long.length > steps.length - at && steps.slice(at).every((step, index) => String(long[index]) === step)); // prettier-ignore
      if (within.length > 0) names.push(within.map(({ label }) => label).join(' and '));
      break;
    }
    at += field.path.length;
    const index = steps[at];
    if (field.is !== 'list' || index === undefined) {
      names.push(field.label);
      break;
    }
    const thing = valueAt(board, [...steps.slice(0, at), index].map((step) => (/^\d+$/.test(step) ? Number(step) : step))); // prettier-ignore
    names.push(isNamed(thing) ? thing.id : `${field.each?.one ?? field.label} ${Number(index) + 1}`);
    fields = field.each?.fields ?? [];
    at += 1;
  }
  const named = names.join(', ') || NAMES[path];
  if (named === undefined) return message;
  return missing ? `${named} missing` : `${named}: ${message.replace(/^"[^"]+" /, '')}`;
}
