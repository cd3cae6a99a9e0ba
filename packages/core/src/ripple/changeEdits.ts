import { secondDrive } from '../machine/driveOf';
import { boardBy } from '../catalogue/catalogue';
import { type Catalogue, partById } from '../catalogue/catalogue';
import { foundBefore } from '../harness/lastCases';
import { wayGrows } from '../harness/ridesOn';
import { wiringCase } from '../harness/wiringCase';
import { applyEdits, type Edit } from '../machine/edit';
import { sameValue } from '../tree/sameValue';
import { type Edits, indexOf, none, partOfKind, partsOfKind, putPart, removal, replacePart, withoutPart } from './partEdits'; // prettier-ignore
import { missingPlace } from '../machine/landing';
import { nextCopy } from '../machine/same';
import { type Machine, type ProbeMount, SECOND_HOTEND } from '../machine/machine';
import { hangsBeside, isMains } from '../parts/part';
import type { ChangeMount, ChangeOf } from './change';

/** Every part goes where the change says, if this board has such a place, else where the harness of least price has it. */
export function newBoard(machine: Machine, change: ChangeOf<'new-board'>, catalogue: Catalogue): Edits {
  const { id, revision } = machine.board;
  if (id === change.board && revision === change.revision)
    return {
      impossible:
        'it has that board already. Take this change out, or choose “the same board, replaced like for like”',
    };
  const board = boardBy(catalogue, { id: change.board, revision: change.revision });
  if (!board) return { impossible: `the catalogue has no board ${change.board} rev ${change.revision}` };
  const wiring = wiringCase(machine, catalogue, board);
  if (!wiring) return { impossible: `the catalogue has no chip ${board.chip}` };
  const told = Object.entries(change.harness ?? {}).filter(
    ([, landing]) => missingPlace(board, landing) === undefined,
  );
  const { harness } = foundBefore(wiring, Object.fromEntries(told));
  return [
    { path: ['board'], value: { id: board.id, revision: board.revision } },
    { path: ['harness'], value: harness },
    ...(machine.jumpers ? [{ path: ['jumpers'] }] : []),
    ...(machine.pins ? [{ path: ['pins'] }] : []),
  ];
}

/** Another copy of the board: nothing is known of it, neither its markings nor where its jumpers sit. */
export function newCopy(machine: Machine): Edits {
  const { id, revision, bootloader } = machine.board;
  const board = { id, revision, copy: nextCopy(machine.board), ...(bootloader === false && { bootloader }) };
  return [{ path: ['board'], value: board }, ...(machine.jumpers ? [{ path: ['jumpers'] }] : [])];
}

/** A new part of the same type in the same place; what was read off the old sensor is not of the new one. */
export function freshPart(
  machine: Machine,
  { part: id }: ChangeOf<'same-part'>,
  catalogue: Catalogue,
): Edits {
  const part = machine.parts.find((each) => each.id === id);
  if (!part) return none(`part ${id}`);
  const read = partById(catalogue, part.part)?.kind === 'thermistor' && machine.readings && part.role in machine.readings; // prettier-ignore
  return [
    { path: ['parts', indexOf(machine, part), 'copy'], value: nextCopy(part) },
    ...(read ? [{ path: ['readings', part.role] }] : []),
  ];
}

export function rewire(machine: Machine, { part, landing }: ChangeOf<'rewire'>, catalogue: Catalogue): Edits {
  if (!machine.parts.some(({ id }) => id === part)) return none(`part ${part}`);
  const board = boardBy(catalogue, machine.board);
  if (!board) return { impossible: `the catalogue has no board ${machine.board.id}` };
  const missing = missingPlace(board, landing);
  return missing === undefined
    ? [{ path: ['harness', part], value: landing }]
    : { impossible: `${board.name} has no ${missing}` };
}

/** All modules of each axis: two Z motors and two extruders may have one each. */
export function otherDrivers(machine: Machine, change: ChangeOf<'drivers'>, catalogue: Catalogue): Edits {
  const places = change.axes.map((axis) => partsOfKind(machine, catalogue, 'driver', axis));
  const missing = change.axes.filter((_axis, index) => places[index]?.length === 0);
  if (missing.length > 0) return none(`driver for ${missing.join(', ').toUpperCase()}`);
  return places.flat().flatMap((place) => [
    { path: ['parts', indexOf(machine, place), 'part'], value: change.part },
    { path: ['parts', indexOf(machine, place), 'microsteps'], value: change.microsteps },
  ]);
}

/** The motor of an axis; `e2` is that of a second extruder. */
export function otherMotor(machine: Machine, { axis, part }: ChangeOf<'motor'>, catalogue: Catalogue): Edits {
  if (axis !== 'e2') return replacePart(machine, catalogue, 'motor', axis, part);
  const [, second] = partsOfKind(machine, catalogue, 'motor', 'e');
  return second
    ? [{ path: ['parts', indexOf(machine, second), 'part'], value: part }]
    : none('second extruder');
}

/** Cables that follow a longer travel have a longer way. */
export function longerWays(machine: Machine, travel: Machine['frame']['travel_mm']): Edit[] {
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

/**
 * Another heater, or one where there was none. A mains heater leaves the board and gets its relay; one that runs from
 * the supply goes to the board.
 */
export function otherHeater(
  machine: Machine,
  { body, part, relay, landing }: Pick<ChangeOf<'heater'>, 'body' | 'part' | 'relay' | 'landing'>,
  catalogue: Catalogue,
): Edits {
  const type = partById(catalogue, part);
  const old = partOfKind(machine, catalogue, 'heater', body);
  if (body === SECOND_HOTEND && !old && partsOfKind(machine, catalogue, 'motor', 'e').length < 2)
    return none('second extruder');
  const oldRelay = partOfKind(machine, catalogue, 'relay', body);
  const wanted = { ...(old ?? { id: `${body}-heater`, role: body }), part };
  if (type && isMains(type)) {
    const taken: Edit[] = [
      { path: ['parts', old ? indexOf(machine, old) : machine.parts.length], value: wanted },
      ...(old ? [{ path: ['harness', old.id] }] : []),
    ];
    const free = applyEdits(machine, taken);
    return [
      ...taken,
      ...(relay
        ? putPart(free, catalogue, { id: `${body}-relay`, part: relay, role: body }, 'relay', landing)
        : []),
    ];
  }
  const without = withoutPart(machine, oldRelay);
  return [
    ...removal(machine, oldRelay),
    ...(old && machine.harness[old.id] && !landing
      ? [{ path: ['parts', indexOf(without, old), 'part'], value: part }]
      : putPart(without, catalogue, wanted, 'heater', landing)),
  ];
}

/** Heater and sensor of the hot end, each in the place of the one before it, or where there is room for a first one. */
export function otherHotEnd(
  machine: Machine,
  { heater, thermistor }: ChangeOf<'hot-end'>,
  catalogue: Catalogue,
): Edits {
  const first = otherHeater(machine, { body: 'hotend', part: heater }, catalogue);
  if ('impossible' in first) return first;
  const sensor = { id: 'hotend-sensor', part: thermistor, role: 'hotend' };
  return [...first, ...putPart(applyEdits(machine, first), catalogue, sensor, 'thermistor', undefined)];
}

/** Of all extruders alike, or of one of two; the other one keeps its own. */
export function otherExtruderDrive(
  machine: Machine,
  { of, drive }: ChangeOf<'extruder-drive'>,
  catalogue: Catalogue,
): Edits {
  const { e2 } = machine.axes;
  const motors = partsOfKind(machine, catalogue, 'motor', 'e');
  if (of === 'e2' && motors.length < 2) return none('second extruder');
  if (of === 'e2') return [{ path: ['axes', 'e2'], value: drive }];
  const others = of === 'e' && motors.length > 1 ? secondDrive(machine) : undefined;
  return [
    { path: ['axes', 'e'], value: drive },
    ...(others || e2 ? [{ path: ['axes', 'e2'], ...(others && { value: others }) }] : []),
  ];
}

/** A second Z motor beside the first, or in a driver place of its own; one that shares a driver can be parted. */
export function secondZ(machine: Machine, { part, socket }: ChangeOf<'dual-z'>, catalogue: Catalogue): Edits {
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

export function addProbe(machine: Machine, change: ChangeOf<'probe-added'>, catalogue: Catalogue): Edits {
  const zSwitch = change.keep_switch ? undefined : partOfKind(machine, catalogue, 'switch', 'z');
  const before = withoutPart(machine, zSwitch);
  const hangs = hangsBeside(partById(catalogue, change.part));
  return [
    ...removal(machine, zSwitch),
    ...(change.keep_switch ? [] : [{ path: ['frame', 'switch_at', 'z'] }]),
    { path: ['probe_mount'], ...(hangs && isMeasured(change.mount) && { value: change.mount }) },
    ...putPart(before, catalogue, { id: 'probe', part: change.part, role: 'z' }, 'probe', change.landing),
  ];
}

export function removeProbe(
  machine: Machine,
  change: ChangeOf<'probe-removed'>,
  catalogue: Catalogue,
): Edits {
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
