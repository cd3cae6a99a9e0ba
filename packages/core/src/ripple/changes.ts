import { contactNet } from '../board/contacts';
import { type Catalogue, partById } from '../catalogue/catalogue';
import { foundBefore } from '../harness/foundBefore';
import { wayGrows } from '../harness/ridesOn';
import { wiringCase } from '../harness/wiringCase';
import { applyEdits, type Edit } from '../machine/edit';
import { sameValue } from '../machine/sameValue';
import {
  type Edits,
  type Impossible,
  indexOf,
  none,
  partOfKind,
  putPart,
  removal,
  replacePart,
  withoutPart,
} from './partEdits';
import type { Machine, ProbeMount } from '../machine/machine';
import { isMains } from '../parts/part';
import type { Change, ChangeKind, ChangeMount, ChangeOf } from './change';
import type { FactKey } from './touched';

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
    edits: () => [],
    events: ['board'],
    flash: true,
  },
  drivers: {
    title: 'Other drivers',
    about: 'driver modules of another type or with other microsteps',
    edits: otherDrivers,
  },
  motor: {
    title: 'Another motor',
    about: 'a motor of another type on one axis',
    edits: (machine, { axis, part }, catalogue) => replacePart(machine, catalogue, 'motor', axis, part),
  },
  drive: {
    title: 'Another belt, pulley or screw',
    about: 'what one turn of a motor moves',
    edits: (_machine, { axis, drive }) => [{ path: ['axes', axis], value: drive }],
  },
  'extruder-drive': {
    title: 'Another extruder drive',
    about: 'other rollers or gears',
    edits: (_machine, { drive }) => [{ path: ['axes', 'e'], value: drive }],
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
    edits: (machine, { heater, thermistor }, catalogue) => {
      const first = replacePart(machine, catalogue, 'heater', 'hotend', heater);
      const second = replacePart(machine, catalogue, 'thermistor', 'hotend', thermistor);
      return 'impossible' in first ? first : 'impossible' in second ? second : [...first, ...second];
    },
    events: ['hotend', 'nozzle'],
  },
  heater: {
    title: 'Another heater',
    about: 'of the hot end or the bed',
    brings: ({ body, relay }) => (relay ? `${body}-relay` : undefined),
    edits: otherHeater,
  },
  thermistor: {
    title: 'Another thermistor',
    about: 'of the hot end or the bed',
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
export const CHANGE_KINDS = Object.keys(CHANGE_TYPES) as ChangeKind[];

/** Id of the part a change brings and lands; undefined for changes that bring none. */
export function partBrought(change: Change): string | undefined {
  const type = CHANGE_TYPES[change.kind] as ChangeType<typeof change.kind>;
  return type.brings?.(change as never);
}

/** The machine after a change, or why it cannot be made. */
export function applyChange(machine: Machine, change: Change, catalogue: Catalogue): Machine | Impossible {
  const type = CHANGE_TYPES[change.kind] as ChangeType<typeof change.kind>;
  const edits = type.edits(machine, change as never, catalogue);
  return 'impossible' in edits ? edits : applyEdits(machine, edits);
}

/** Changes in working order; those of one kind stay in theirs. */
export function inWorkingOrder(changes: readonly Change[]): Change[] {
  return [...changes].sort((a, b) => CHANGE_KINDS.indexOf(a.kind) - CHANGE_KINDS.indexOf(b.kind));
}

/** Every part goes where the change says, else where the harness of least price has it. */
function newBoard(machine: Machine, change: ChangeOf<'new-board'>, catalogue: Catalogue): Edits {
  const { id, revision } = machine.board;
  if (id === change.board && revision === change.revision)
    return { impossible: 'it has that board already; choose "the same board, replaced like for like"' };
  const board = catalogue.boards.find(
    (entry) => entry.id === change.board && entry.revision === change.revision,
  );
  if (!board) return { impossible: `the catalogue has no board ${change.board} rev ${change.revision}` };
  const wiring = wiringCase(machine, catalogue, board);
  if (!wiring) return { impossible: `the catalogue has no chip ${board.chip}` };
  const { harness } = foundBefore(wiring, change.harness ?? {});
  return [
    { path: ['board'], value: { id: board.id, revision: board.revision } },
    { path: ['harness'], value: harness },
    ...(machine.jumpers ? [{ path: ['jumpers'] }] : []),
    ...(machine.pins ? [{ path: ['pins'] }] : []),
  ];
}

function rewire(machine: Machine, { part, landing }: ChangeOf<'rewire'>, catalogue: Catalogue): Edits {
  if (!machine.parts.some(({ id }) => id === part)) return none(`part ${part}`);
  const { id, revision } = machine.board;
  const board = catalogue.boards.find((entry) => entry.id === id && entry.revision === revision);
  const missing =
    'socket' in landing
      ? board?.sockets.some((socket) => socket.id === landing.socket)
        ? undefined
        : landing.socket
      : Object.values(landing.leads).find((contact) => !board || !contactNet(board, contact));
  return missing === undefined
    ? [{ path: ['harness', part], value: landing }]
    : { impossible: `${board?.name ?? id} has no ${missing}` };
}

function otherDrivers(machine: Machine, change: ChangeOf<'drivers'>, catalogue: Catalogue): Edits {
  const places = change.axes.map((axis) => partOfKind(machine, catalogue, 'driver', axis));
  const missing = change.axes.filter((_axis, index) => !places[index]);
  if (missing.length > 0) return none(`driver for ${missing.join(', ').toUpperCase()}`);
  return places.flatMap((place) => [
    { path: ['parts', indexOf(machine, place!), 'part'], value: change.part },
    { path: ['parts', indexOf(machine, place!), 'microsteps'], value: change.microsteps },
  ]);
}

/** Cables that follow a longer travel have a longer way. */
function longerWays(machine: Machine, travel: Machine['frame']['travel_mm']): Edit[] {
  return machine.parts.flatMap((part) => {
    const way = machine.cables?.[part.id]?.route_mm;
    const more = wayGrows(machine, part, travel);
    return way === undefined || more === 0
      ? []
      : [{ path: ['cables', part.id, 'route_mm'], value: way + more }];
  });
}

/** A mount of which both distances were measured. */
const isMeasured = (mount: ChangeMount): mount is ProbeMount =>
  mount.side_mm !== undefined && mount.face_mm !== undefined;

/** A mains heater leaves the board and gets its relay; one that runs from the supply goes to the board. */
function otherHeater(
  machine: Machine,
  { body, part, relay }: ChangeOf<'heater'>,
  catalogue: Catalogue,
): Edits {
  const type = partById(catalogue, part);
  const old = partOfKind(machine, catalogue, 'heater', body);
  if (!old) return none(`heater for the ${body}`);
  const oldRelay = partOfKind(machine, catalogue, 'relay', body);
  if (type && isMains(type)) {
    const { [old.id]: _landing, ...harness } = machine.harness;
    const free = { ...machine, harness };
    return [
      { path: ['parts', indexOf(machine, old), 'part'], value: part },
      { path: ['harness', old.id] },
      ...(relay
        ? putPart(free, catalogue, { id: `${body}-relay`, part: relay, role: body }, 'relay', undefined)
        : []),
    ];
  }
  const without = withoutPart(machine, oldRelay);
  return [
    ...removal(machine, oldRelay),
    ...(machine.harness[old.id]
      ? [{ path: ['parts', indexOf(without, old), 'part'], value: part }]
      : putPart(without, catalogue, { ...old, part }, 'heater', undefined)),
  ];
}

/** A second Z motor beside the first, or in a driver place of its own; one that shares a driver can be parted. */
function secondZ(machine: Machine, { part, socket }: ChangeOf<'dual-z'>, catalogue: Catalogue): Edits {
  const first = partOfKind(machine, catalogue, 'motor', 'z');
  if (!first) return none('Z motor');
  const there = machine.parts.find((entry) => entry.id === SECOND_Z);
  const landing = socket ? { socket } : machine.harness[first.id];
  if (there && sameValue(machine.harness[SECOND_Z], landing) && there.part === part)
    return {
      impossible: 'its second Z motor is there already; choose a driver place of its own to part the two',
    };
  return [
    there
      ? { path: ['parts', indexOf(machine, there), 'part'], value: part }
      : { path: ['parts', machine.parts.length], value: { id: SECOND_Z, part, role: 'z' } },
    ...(landing ? [{ path: ['harness', SECOND_Z], value: landing }] : []),
    ...(socket ? driverIn(machine, socket, catalogue, there ? 0 : 1) : []),
  ];
}
const SECOND_Z = 'z-motor-2';

/** A module like the first Z driver for a place that has none; `after` parts are added before it. */
function driverIn(machine: Machine, socket: string, catalogue: Catalogue, after: number): Edit[] {
  const like = partOfKind(machine, catalogue, 'driver', 'z');
  const taken = Object.entries(machine.harness).some(
    ([id, landing]) =>
      'socket' in landing &&
      landing.socket === socket &&
      machine.parts.some((entry) => entry.id === id && partById(catalogue, entry.part)?.kind === 'driver'),
  );
  if (!like || taken) return [];
  const { part, microsteps } = like;
  return [
    {
      path: ['parts', machine.parts.length + after],
      value: { id: 'z-driver-2', part, role: 'z', ...(microsteps && { microsteps }) },
    },
    { path: ['harness', 'z-driver-2'], value: { socket } },
  ];
}

function addProbe(machine: Machine, change: ChangeOf<'probe-added'>, catalogue: Catalogue): Edits {
  const zSwitch = change.keep_switch ? undefined : partOfKind(machine, catalogue, 'switch', 'z');
  const before = withoutPart(machine, zSwitch);
  return [
    ...removal(machine, zSwitch),
    ...(change.keep_switch ? [] : [{ path: ['frame', 'switch_at', 'z'] }]),
    { path: ['probe_mount'], ...(isMeasured(change.mount) && { value: change.mount }) },
    ...putPart(before, catalogue, { id: 'probe', part: change.part, role: 'z' }, 'probe', change.landing),
  ];
}

function removeProbe(machine: Machine, change: ChangeOf<'probe-removed'>, catalogue: Catalogue): Edits {
  const probe = partOfKind(machine, catalogue, 'probe');
  if (!probe) return none('probe');
  const before = withoutPart(machine, probe);
  return [
    ...removal(machine, probe),
    { path: ['probe_mount'] },
    ...(change.switch_part
      ? [
          { path: ['frame', 'switch_at', 'z'], value: 'min' },
          ...putPart(
            before,
            catalogue,
            { id: 'z-switch', part: change.switch_part, role: 'z' },
            'switch',
            change.landing,
          ),
        ]
      : []),
  ];
}
