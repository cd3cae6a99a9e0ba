import { put } from '@jolly/core/tree/put';
import type { Change, ChangeKind } from '@jolly/core/ripple/change';
import type { Facts } from '@jolly/core/machine/facts';
import type { Landing } from '@jolly/core/machine/landing';
import { fanCalled } from '@jolly/core/machine/fanCalled';
import { bodyCalled } from '@jolly/core/machine/bodyCalled';
import { caseOf } from '@jolly/core/harness/wiringCase';
import { secondDrive } from '@jolly/core/machine/driveOf';
import { secondMotor } from '@jolly/core/machine/secondMotor';
import { partById } from '@jolly/core/catalogue/catalogue';
import { hangsBeside, isMains } from '@jolly/core/parts/part';
import { landingInWords } from '@jolly/core/ripple/leadRules';
import { rankLandings } from '@jolly/core/harness/rankLandings';
import { SPARE } from '@jolly/core/machine/spareSensor';
import { sameValue } from '@jolly/core/tree/sameValue';
import { type Axis, MOTOR_AXES, WARMED } from '@jolly/core/machine/machine';
import {
  type ChangeField,
  MICROSTEPS,
  number,
  choice,
  axis,
  heatedBody,
  measuredBody,
  onlyPart,
  UNSAID,
  part,
  usedPart,
  boardChoice,
  revisionChoice,
  driveFields,
  withGears,
} from './fieldKinds';

interface Asked {
  /** The change with everything as it is now, to begin from. */
  blank: (facts: Facts) => Record<string, unknown>;
  fields: (facts: Facts, change: Change) => ChangeField[];
}

/** Which extruder gets another drive, where there are two. */
const WHICH_EXTRUDER: ChangeField = {
  ...choice(['of'], 'Of', ['e', 'e2'], { e: 'the first extruder', e2: 'the second extruder' }),
  optional: 'both alike',
};

/** What fans serve that an image switches. */
const FANS = ['part', 'hotend', 'board'];
const none: Asked = { blank: () => ({}), fields: () => [] };

/** What one more thermistor may measure: what has none yet, and the hot end once more. */
const measurable = ({ parts }: Facts, change: Change): string[] => {
  const measured = parts.flatMap(({ type, role }) => (type.kind === 'thermistor' ? [role] : []));
  const free = [...WARMED, SPARE].filter((role) => !measured.includes(role));
  return [...new Set([...free, ...(change.kind === 'extra-thermistor' ? [change.role] : [])])];
};

/** Whether the probe of a change hangs beside the nozzle, and is not the nozzle itself. */
const hangs = ({ catalogue }: Facts, change: Change): boolean =>
  'part' in change && hangsBeside(partById(catalogue, change.part));
const UNTOLD_MOUNT = { side: UNSAID, face: UNSAID };
/** Where a probe hangs; the distances stay empty until somebody has measured them. */
const MOUNT: readonly ChangeField[] = [
  choice(['mount', 'side'], 'Seen from the front', ['left', 'right'], {
    left: 'left of the nozzle',
    right: 'right of the nozzle',
  }),
  { ...number(['mount', 'side_mm'], 'by'), optional: 'not measured yet' },
  choice(['mount', 'face'], 'Seen from the side', ['front', 'back'], {
    front: 'in front of it',
    back: 'behind it',
  }),
  { ...number(['mount', 'face_mm'], 'by'), optional: 'not measured yet' },
];

/** What is asked for each kind of change, and what it begins from. */
const ASKED: Record<ChangeKind, Asked> = {
  'new-board': {
    blank: () => ({ board: UNSAID, revision: UNSAID }),
    fields: (facts, change) => [
      boardChoice(facts),
      ...('board' in change && change.board !== UNSAID ? [revisionChoice(facts, change)] : []),
    ],
  },
  'same-board': none,
  'same-part': {
    blank: () => ({ part: UNSAID }),
    fields: ({ parts }) => [
      choice(
        ['part'],
        'Part',
        parts.map(({ id }) => id),
        Object.fromEntries(parts.map(({ id, type }) => [id, `${id}: ${type.name}`])),
      ),
    ],
  },
  'kit-version': {
    blank: ({ machine }) => ({ kit: machine.kit.id, version: machine.kit.version }),
    fields: ({ catalogue }) => [
      choice(
        ['version'],
        'Version',
        catalogue.kits.map((kit) => kit.version),
      ),
    ],
  },
  supply: {
    blank: ({ machine }) => ({ ...machine.supply }),
    fields: () => [number(['volts_v'], 'Voltage', 'V'), number(['amps_a'], 'Current', 'A')],
  },
  drivers: {
    blank: (facts) => ({ part: onlyPart(facts, 'driver'), axes: [...MOTOR_AXES], microsteps: 16 }),
    fields: (facts) => [
      part(facts, 'driver'),
      { path: ['microsteps'], label: 'Microsteps', kind: 'choice', choices: MICROSTEPS, numeric: true },
      { path: ['axes'], label: 'For', kind: 'axes' },
    ],
  },
  motor: {
    blank: (facts) => ({ axis: 'x', part: onlyPart(facts, 'motor') }),
    fields: (facts) => [
      axis([...MOTOR_AXES, ...(secondMotor(facts, 'e') ? ['e2'] : [])]),
      part(facts, 'motor'),
    ],
  },
  drive: {
    blank: ({ machine }) => ({ axis: 'x', drive: withGears(machine.axes.x) }),
    fields: (_facts, change) => [axis(['x', 'y', 'z']), ...driveFields(change)],
  },
  'extruder-drive': {
    blank: ({ machine }) => ({ drive: withGears(machine.axes.e) }),
    fields: (facts, change) => [...(secondMotor(facts, 'e') ? [WHICH_EXTRUDER] : []), ...driveFields(change)],
  },
  'dual-z': {
    blank: (facts) => ({ part: usedPart(facts, 'motor', 'z') ?? onlyPart(facts, 'motor') }),
    fields: (facts) => [
      part(facts, 'motor'),
      choice(['socket'], 'Driver', ['', ...facts.board.sockets.map((socket) => socket.id)], {
        '': 'shares the first',
      }),
    ],
  },
  'frame-size': {
    blank: ({ machine: { frame } }) => ({ bed_mm: frame.bed_mm, travel_mm: frame.travel_mm }),
    fields: () => [
      ...(['x', 'y'] as const).map((a) => number(['bed_mm', a, 1], `Plate to, ${a.toUpperCase()}`)),
      ...(['x', 'y', 'z'] as const).map((a) => number(['travel_mm', a, 1], `Travel to, ${a.toUpperCase()}`)),
    ],
  },
  switch: {
    blank: (facts) => ({ axis: 'x', part: onlyPart(facts, 'switch'), at: 'min' }),
    fields: (facts) => [
      axis(['x', 'y', 'z']),
      part(facts, 'switch'),
      choice(['at'], 'At the', ['min', 'max'], { min: 'low end', max: 'high end' }),
    ],
  },
  'probe-added': {
    blank: (facts) => ({
      part: onlyPart(facts, 'probe'),
      mount: UNTOLD_MOUNT,
      keep_switch: false,
    }),
    fields: (facts, change) => [
      part(facts, 'probe'),
      ...(hangs(facts, change) ? MOUNT : []),
      { path: ['keep_switch'], label: 'Keep the Z switch', kind: 'flag' },
    ],
  },
  'probe-removed': {
    blank: (facts) => ({ switch_part: onlyPart(facts, 'switch') }),
    fields: (facts) => [part(facts, 'switch', ['switch_part'], 'Z switch instead')],
  },
  'probe-replugged': {
    // Without a probe the change cannot be made, and says so; it still names a contact this board has.
    blank: (facts) => ({
      landing: probePlaces(facts)[0]?.landing ?? { leads: { signal: firstSignal(facts) } },
    }),
    fields: (facts, change) => {
      const places = probePlaces(facts);
      const now = 'landing' in change ? change.landing : undefined;
      // A place that was chosen and is none any more is shown as what it is.
      const all = [
        ...(now && !places.some(({ landing }) => sameValue(landing, now)) ? [now] : []),
        ...places.map(({ landing }) => landing),
      ];
      return [
        {
          path: ['landing'],
          label: all.length > 0 ? 'To' : `${facts.board.name} has no other place for it`,
          kind: 'choice',
          choices: all.map((landing) => ({ value: keyOfLanding(landing), label: landingInWords(landing) })),
        },
      ];
    },
  },
  'hot-end': {
    blank: (facts) => ({ heater: onlyPart(facts, 'heater'), thermistor: onlyPart(facts, 'thermistor') }),
    fields: (facts) => [
      part(facts, 'heater', ['heater'], 'Heater'),
      part(facts, 'thermistor', ['thermistor'], 'Thermistor'),
    ],
  },
  heater: {
    blank: (facts) => ({ body: 'hotend', part: onlyPart(facts, 'heater') }),
    fields: (facts, change) => {
      const type = facts.catalogue.parts.find((entry) => 'part' in change && entry.id === change.part);
      return [
        heatedBody(facts),
        part(facts, 'heater'),
        ...(type && isMains(type) ? [part(facts, 'relay', ['relay'], 'Relay that switches it')] : []),
      ];
    },
  },
  thermistor: {
    blank: (facts) => ({ body: 'hotend', part: onlyPart(facts, 'thermistor') }),
    fields: (facts) => [measuredBody(facts), part(facts, 'thermistor')],
  },
  'extra-thermistor': {
    blank: (facts) => ({ role: 'chamber', part: onlyPart(facts, 'thermistor') }),
    fields: (facts, change) => [
      choice(['role'], 'What it measures', measurable(facts, change), {
        ...Object.fromEntries(WARMED.map((body) => [body, `the ${bodyCalled(body)}`])),
        [SPARE]: 'the hot end, a second time',
      }),
      part(facts, 'thermistor'),
    ],
  },
  rewire: {
    blank: ({ machine }) => {
      const [id, landing] = Object.entries(machine.harness)[0] ?? ['', { socket: '' }];
      return { part: id, landing };
    },
    fields: ({ machine }) => [choice(['part'], 'Part', Object.keys(machine.harness))],
  },
  nozzle: none,
  fan: {
    blank: (facts) => ({ role: 'part', part: onlyPart(facts, 'fan') }),
    fields: (facts) => [
      choice(['role'], 'Which', FANS, Object.fromEntries(FANS.map((role) => [role, fanCalled(role)]))),
      part(facts, 'fan'),
    ],
  },
  'filament-sensor': {
    blank: (facts) => ({ part: onlyPart(facts, 'filament-sensor') }),
    fields: (facts) => [part(facts, 'filament-sensor')],
  },
  servo: {
    blank: (facts) => ({ role: 'flap', part: onlyPart(facts, 'servo') }),
    fields: (facts) => [{ path: ['role'], label: 'What it moves', kind: 'text' }, part(facts, 'servo')],
  },
  display: {
    blank: (facts) => ({ part: onlyPart(facts, 'display') }),
    fields: (facts) => [part(facts, 'display')],
  },
  lamp: { blank: (facts) => ({ part: onlyPart(facts, 'lamp') }), fields: (facts) => [part(facts, 'lamp')] },
  feature: {
    blank: () => ({ key: UNSAID, value: true }),
    fields: ({ kit }) => [
      {
        path: ['key'],
        label: 'Feature',
        kind: 'choice',
        choices: kit.options
          .filter((option) => option.kind === 'flag' && option.without)
          .map((option) => ({ value: option.key, label: option.label })),
      },
      { path: ['value'], label: 'On', kind: 'flag' },
    ],
  },
  plate: none,
  belt: { blank: () => ({ axis: 'x' }), fields: () => [axis(['x', 'y'])] },
};

/** Every legal place of the probe on this board, free ones first, by price. */
function probePlaces(facts: Facts): { landing: Landing }[] {
  const probe = facts.parts.find((entry) => entry.type.kind === 'probe');
  if (!probe) return [];
  return rankLandings(caseOf(facts), facts.machine.harness, probe.id)
    .filter(({ clashes }) => clashes.length === 0)
    .slice(0, MOST_PLACES);
}
const MOST_PLACES = 12;

function firstSignal({ board }: Facts): string {
  for (const { id, contacts } of board.headers) {
    const index = contacts.findIndex((net) => net.startsWith('sig:'));
    if (index >= 0) return `${id}.${index + 1}`;
  }
  return `${board.headers[0]?.id ?? 'NONE'}.1`;
}

/** The same for equal landings, however their keys are ordered. */
export function keyOfLanding(landing: Landing): string {
  const sorted = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(sorted)
      : value !== null && typeof value === 'object'
        ? Object.fromEntries(
            Object.entries(value)
              .sort(([a], [b]) => (a < b ? -1 : 1))
              .map(([key, inner]) => [key, sorted(inner)]),
          )
        : value;
  return JSON.stringify(sorted(landing));
}

/** A change of a kind with everything as it is on the machine now, to begin from. */
export function blankChange(kind: ChangeKind, facts: Facts, taken: string[]): Change {
  let id: string = kind;
  for (let number = 2; taken.includes(id); number += 1) id = `${kind}-${number}`;
  // What a kind is begun from fills its fields.
  return { id, kind, ...ASKED[kind].blank(facts) } as Change;
}

export const changeFields = (change: Change, facts: Facts): ChangeField[] =>
  ASKED[change.kind].fields(facts, change);

/** A change after one of its fields was set; what depends on the field follows. */
export function afterField(change: Change, path: ChangeField['path'], value: unknown, facts: Facts): Change {
  // A field of this change with a value of its kind.
  const next = put(change, path, value) as Change;
  if (next.kind === 'new-board' && path[0] === 'board') {
    const { harness: _harness, ...others } = next;
    // The same name was sold with other chips: of several revisions none is taken for the one at hand.
    const [first, second] = facts.catalogue.boards.filter((board) => board.id === next.board);
    return { ...others, revision: first && !second ? first.revision : UNSAID };
  }
  if (next.kind === 'drive' && path[0] === 'axis')
    // A drive is changed on an axis of its own.
    return { ...next, drive: withGears(facts.machine.axes[next.axis as Axis]) };
  if (next.kind === 'extruder-drive' && path[0] === 'of')
    return {
      ...next,
      drive: withGears(next.of === 'e2' ? secondDrive(facts.machine) : facts.machine.axes.e),
    };
  if (next.kind === 'heater') {
    const type = facts.catalogue.parts.find((entry) => entry.id === next.part);
    const { relay, ...others } = next;
    return type && isMains(type) ? { ...others, relay: relay ?? onlyPart(facts, 'relay') } : others;
  }
  if (next.kind === 'probe-added' && path[0] === 'part' && hangs(facts, next) !== hangs(facts, change))
    // A side that is not chosen yet is none of its own; what is the nozzle itself hangs on no side of it.
    return { ...next, mount: hangs(facts, next) ? UNTOLD_MOUNT : { side: 'left', face: 'front' } } as Change;
  if (next.kind === 'dual-z' && next.socket === '') {
    const { socket: _socket, ...others } = next;
    return others;
  }
  return next;
}
