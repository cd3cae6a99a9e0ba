import { keysOf } from '../tree/keysOf';
import { type Catalogue } from '../catalogue/catalogue';
import { applyEdits } from '../machine/edit';
import { type Edits, type Impossible, none, partOfKind, putPart, replacePart } from './partEdits';
import type { Machine } from '../machine/machine';
import type { Change, ChangeKind, ChangeOf } from './change';
import type { FactKey } from '../machine/touched';
import {
  freshPart,
  newBoard,
  newCopy,
  rewire,
  otherDrivers,
  longerWays,
  otherExtruderDrive,
  otherHeater,
  otherHotEnd,
  otherMotor,
  secondZ,
  addProbe,
  removeProbe,
} from './changeEdits';

interface ChangeType<K extends ChangeKind> {
  title: string;
  /** What it is, for whoever chooses it. */
  about: string;
  /** The edits that make the machine file say what the change does. */
  edits: (machine: Machine, change: ChangeOf<K>, catalogue: Catalogue) => Edits;
  /** Id of the part it brings, for which it says where that lands. */
  brings?: (change: ChangeOf<K>) => string | undefined;
  /** What changes although the machine file does not say so. */
  events?: FactKey[];
  /** A new image is needed even when no setting changes. */
  flash?: true;
}

/** Every kind of change, in the order in which several are done: what others rest on comes first. */
export const CHANGE_TYPES: { [K in ChangeKind]: ChangeType<K> } = {
  'kit-version': {
    title: 'Another kit version',
    about: 'a newer or older release of the firmware',
    edits: (machine, { kit, version }) =>
      machine.kit.id === kit && machine.kit.version === version
        ? { impossible: 'it is built from that version already' }
        : [{ path: ['kit'], value: { id: kit, version } }],
    flash: true,
  },
  supply: {
    title: 'Another supply',
    about: 'a supply of another voltage or power',
    edits: (_machine, { volts_v, amps_a }) => [{ path: ['supply'], value: { volts_v, amps_a } }],
  },
  'new-board': {
    title: 'Another controller board',
    about: 'another type, or another revision of it',
    edits: newBoard,
    flash: true,
  },
  'same-board': {
    title: 'The same board, replaced like for like',
    about: 'a new copy of the board it has',
    edits: newCopy,
    flash: true,
  },
  'same-part': {
    title: 'A part, replaced like for like',
    about: 'a new one of the same type, where the old one is worn or broken',
    edits: freshPart,
  },
  drivers: {
    title: 'Other drivers',
    about: 'of another type or with other microsteps; or those that another board brings',
    edits: otherDrivers,
  },
  motor: {
    title: 'Another motor',
    about: 'a motor of another type on one axis',
    edits: otherMotor,
  },
  drive: {
    title: 'Another belt, pulley or screw',
    about: 'what one turn of a motor moves',
    edits: (_machine, { axis, drive }) => [{ path: ['axes', axis], value: drive }],
  },
  'extruder-drive': {
    title: 'Another extruder drive',
    about: 'other rollers or gears',
    edits: otherExtruderDrive,
  },
  'dual-z': {
    brings: () => 'z-motor-2',
    title: 'A second Z motor',
    about: 'on a driver of its own, or beside the first; or parted from it',
    edits: secondZ,
  },
  'frame-size': {
    title: 'Another plate or frame size',
    about: 'a bigger plate, a taller frame',
    edits: (machine, { bed_mm, travel_mm }) => [
      { path: ['frame', 'bed_mm'], value: bed_mm },
      { path: ['frame', 'travel_mm'], value: travel_mm },
      ...longerWays(machine, travel_mm),
    ],
  },
  switch: {
    brings: ({ axis }) => `${axis}-switch`,
    title: 'Another end switch',
    about: 'a switch of another type, at another end, or where there was none',
    edits: (machine, { axis, part, at, landing }, catalogue) => [
      ...putPart(machine, catalogue, { id: `${axis}-switch`, part, role: axis }, 'switch', landing),
      ...(at ? [{ path: ['frame', 'switch_at', axis], value: at }] : []),
    ],
  },
  'probe-added': {
    brings: () => 'probe',
    title: 'A bed probe is added',
    about: 'and may find Z instead of a switch',
    edits: addProbe,
  },
  'probe-removed': {
    brings: ({ switch_part }) => (switch_part ? 'z-switch' : undefined),
    title: 'The bed probe goes',
    about: 'and a switch finds Z again',
    edits: removeProbe,
  },
  'probe-replugged': {
    title: 'The probe moves to another plug',
    about: 'its own header, or the one of the old Z switch',
    edits: (machine, { landing }, catalogue) => {
      const probe = partOfKind(machine, catalogue, 'probe');
      return probe ? [{ path: ['harness', probe.id], value: landing }] : none('probe');
    },
  },
  'hot-end': {
    title: 'Another hot end',
    about: 'heater, thermistor and nozzle together',
    edits: otherHotEnd,
    events: ['hotend', 'nozzle'],
  },
  heater: {
    title: 'Another heater',
    about: 'of a hot end, the bed or the chamber, or where there was none',
    brings: ({ body, relay }) => `${body}-${relay ? 'relay' : 'heater'}`,
    edits: otherHeater,
  },
  thermistor: {
    title: 'Another thermistor',
    about: 'of a hot end, the bed or the chamber',
    edits: (machine, { body, part }, catalogue) => replacePart(machine, catalogue, 'thermistor', body, part),
  },
  'extra-thermistor': {
    brings: ({ role }) => `${role}-sensor`,
    title: 'An extra thermistor',
    about: 'for the chamber, or where a heater was without one',
    edits: (machine, { role, part, landing }, catalogue) =>
      putPart(machine, catalogue, { id: `${role}-sensor`, part, role }, 'thermistor', landing),
  },
  nozzle: { title: 'Another nozzle', about: 'a nozzle job of any kind', edits: () => [], events: ['nozzle'] },
  fan: {
    brings: ({ role }) => `${role}-fan`,
    title: 'Another fan',
    about: 'of another type or voltage, or where there was none',
    edits: (machine, { role, part, landing }, catalogue) =>
      putPart(machine, catalogue, { id: `${role}-fan`, part, role }, 'fan', landing),
  },
  'filament-sensor': {
    brings: () => 'filament-sensor',
    title: 'A filament sensor',
    about: 'pauses when the filament ends',
    edits: (machine, { part, landing }, catalogue) =>
      putPart(
        machine,
        catalogue,
        { id: 'filament-sensor', part, role: 'filament' },
        'filament-sensor',
        landing,
      ),
  },
  servo: {
    brings: ({ role }) => `${role}-servo`,
    title: 'An extra servo',
    about: 'for a flap, a wiper, a lid',
    edits: (machine, { role, part, landing }, catalogue) =>
      putPart(machine, catalogue, { id: `${role}-servo`, part, role }, 'servo', landing),
  },
  display: {
    brings: () => 'display',
    title: 'Another display',
    about: 'or one where there was none',
    edits: (machine, { part, landing }, catalogue) =>
      putPart(machine, catalogue, { id: 'display', part, role: 'panel' }, 'display', landing),
  },
  lamp: {
    brings: () => 'lamp',
    title: 'A lamp',
    about: 'switched by the board',
    edits: (machine, { part, landing }, catalogue) =>
      putPart(machine, catalogue, { id: 'lamp', part, role: 'lamp' }, 'lamp', landing),
  },
  feature: {
    title: 'A feature on or off',
    about: 'thermal protection, stored settings, PID …',
    edits: (_machine, { key, value, because }) => [
      {
        path: ['settings', key],
        value: { value, source: 'override', because: because ?? 'decided in a job' },
      },
    ],
  },
  rewire: {
    brings: ({ part }) => part,
    title: 'A lead to another place',
    about: 'the same part at another header or driver place',
    edits: rewire,
  },
  plate: {
    title: 'A new plate of the same kind',
    about: 'same size and thickness',
    edits: () => [],
    events: ['plate'],
  },
  belt: {
    title: 'A new belt of the same kind',
    about: 'same pitch and length',
    edits: () => [],
    events: ['belt'],
  },
};
export const CHANGE_KINDS = keysOf(CHANGE_TYPES);

/** Id of the part a change brings and lands; undefined for changes that bring none. */
export function partBrought(change: Change): string | undefined {
  // Each entry is asked with its own kind of change.
  const type = CHANGE_TYPES[change.kind] as ChangeType<typeof change.kind>;
  // as above
  return type.brings?.(change as never);
}

/** The machine after a change, or why it cannot be made. */
export function applyChange(machine: Machine, change: Change, catalogue: Catalogue): Machine | Impossible {
  // Each entry is asked with its own kind of change.
  const type = CHANGE_TYPES[change.kind] as ChangeType<typeof change.kind>;
  // as above
  const edits = type.edits(machine, change as never, catalogue);
  return 'impossible' in edits ? edits : applyEdits(machine, edits);
}

/** Changes in working order; those of one kind stay in theirs. */
export function inWorkingOrder(changes: readonly Change[]): Change[] {
  return [...changes].sort((a, b) => CHANGE_KINDS.indexOf(a.kind) - CHANGE_KINDS.indexOf(b.kind));
}
