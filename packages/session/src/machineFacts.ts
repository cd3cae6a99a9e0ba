import type { Path } from '@jolly/core/tree/path';
import { valueAt } from '@jolly/core/tree/path';
import type { Machine, MotorAxis } from '@jolly/core/machine/machine';
import type { PartKind } from '@jolly/core/parts/part';
import { driverOf, partFor } from '@jolly/core/machine/facts';
import type { KnownMachine } from './known';
import type { PartId } from './machineParts';

type Known = Pick<KnownMachine, 'machine' | 'facts'>;

/** A physical fact about the machine that a person can see, count or measure, and where the machine file keeps it. */
export interface FactField {
  label: string;
  path: (string | number)[];
  unit?: string;
  kind: 'number' | 'text' | 'choice';
  choices?: { value: string; label: string }[];
  value: string | number | undefined;
  /** What a chosen word means in the machine file, where that is no text. */
  read?: (raw: string) => unknown;
  /** What an empty field means; only such a field may be left empty. */
  empty?: string;
}

/** By what a field is found on its page. */
export const factId = ({ path }: Pick<FactField, 'path'>): string => `fact-${path.join('-')}`;

/** The number or word at a path of the machine file. */
function plainAt(machine: Machine, path: Path): FactField['value'] {
  const value = valueAt(machine, path);
  return typeof value === 'number' || typeof value === 'string' ? value : undefined;
}

type Draft = Omit<FactField, 'value'>;
const number = (label: string, path: (string | number)[], unit: string, empty?: string): Draft => ({
  label,
  path,
  unit,
  kind: 'number',
  ...(empty && { empty }),
});
const choice = (label: string, path: (string | number)[], choices: Record<string, string>): Draft => ({
  label,
  path,
  kind: 'choice',
  choices: Object.entries(choices).map(([value, text]) => ({ value, label: text })),
});

/** The facts that belong to a part of the machine. */
export function factsOf(part: PartId, known: Known): FactField[] {
  return drafts(part, known).map((draft) => ({
    ...draft,
    value: plainAt(known.machine, draft.path),
  }));
}

function drafts(part: PartId, known: Known): Draft[] {
  switch (part) {
    case 'identity':
      return [
        { label: 'Name', path: ['name'], kind: 'text' },
        { label: 'Mark after it', path: ['mark'], kind: 'text', empty: 'none' },
        {
          ...choice('Revision was', ['board', 'revision_seen'], {
            true: 'read off the board',
            false: 'guessed',
          }),
          read: (raw) => raw === 'true',
        },
        { label: 'Marking on the chip', path: ['board', 'marking'], kind: 'text', empty: 'not read' },
      ];
    case 'frame':
      return [
        number('Plate from, X', ['frame', 'bed_mm', 'x', 0], 'mm'),
        number('Plate to, X', ['frame', 'bed_mm', 'x', 1], 'mm'),
        number('Plate from, Y', ['frame', 'bed_mm', 'y', 0], 'mm'),
        number('Plate to, Y', ['frame', 'bed_mm', 'y', 1], 'mm'),
        number('Supply', ['supply', 'volts_v'], 'V'),
        number('Supply, most', ['supply', 'amps_a'], 'A'),
      ];
    case 'x':
    case 'y':
    case 'z':
      return [
        number('Travel from', ['frame', 'travel_mm', part, 0], 'mm'),
        number('Travel to', ['frame', 'travel_mm', part, 1], 'mm'),
        number('Room in the frame', ['frame', 'room_mm', part], 'mm', 'not measured'),
        ...partChoice('Switch', 'switch', part, known),
        ...driveFacts(part, known),
      ];
    case 'e':
      return driveFacts('e', known);
    case 'hotend':
    case 'bed':
    case 'chamber':
      return [
        partChoice('Heater', 'heater', part, known),
        partChoice('Sensor', 'thermistor', part, known),
      ].flat();
    case 'probe':
      return known.machine.probe_mount
        ? [
            choice('Sits', ['probe_mount', 'side'], {
              left: 'left of the nozzle',
              right: 'right of the nozzle',
            }),
            number('by', ['probe_mount', 'side_mm'], 'mm'),
            choice('and', ['probe_mount', 'face'], { front: 'in front of it', back: 'behind it' }),
            number('by', ['probe_mount', 'face_mm'], 'mm'),
            number('Trigger against nozzle, Z', ['probe_mount', 'z_mm'], 'mm', 'not measured'),
            number('Stowed tip above nozzle', ['probe_mount', 'stowed_mm'], 'mm', 'not measured'),
          ]
        : [];
    case 'map':
    case 'fans':
    case 'filament':
    case 'display':
      // Their parts are added and moved at Wiring.
      return [];
  }
}

function driveFacts(axis: MotorAxis, { machine, facts }: Known): Draft[] {
  const drive = machine.axes[axis];
  const driver = driverOf(facts, partFor(facts, 'motor', axis));
  const index = machine.parts.findIndex((part) => part.id === driver?.id);
  const geometry = {
    belt: [
      number('Pulley', ['axes', axis, 'teeth'], 'teeth'),
      number('Belt pitch', ['axes', axis, 'pitch_mm'], 'mm'),
    ],
    screw: [number('Screw lead', ['axes', axis, 'lead_mm'], 'mm')],
    roller: [number('Roller diameter', ['axes', axis, 'diameter_mm'], 'mm')],
  }[drive.kind];
  return [
    ...geometry,
    number('Motor turns per output turn', ['axes', axis, 'gear_ratio'], '', '1, direct'),
    ...(index >= 0
      ? [
          {
            ...choice('Microsteps', ['parts', index, 'microsteps'], {
              8: '8',
              16: '16',
              32: '32',
              64: '64',
              128: '128',
            }),
            read: Number,
          },
        ]
      : []),
    ...(index >= 0
      ? [
          choice('Driver is cooled by', ['parts', index, 'cooling'], {
            sink: 'its heat sink',
            bare: 'nothing',
            blown: 'a fan blowing at it',
          }),
        ]
      : []),
    choice('Shaft turns, towards plus', ['axes', axis, 'plus_is'], {
      clockwise: 'clockwise',
      anticlockwise: 'anticlockwise',
    }),
    number('Top speed', ['axes', axis, 'max_speed_mm_s'], 'mm/s'),
    number('Acceleration', ['axes', axis, 'max_accel_mm_s2'], 'mm/s²'),
  ];
}

function partChoice(label: string, kind: PartKind, role: string, { machine, facts }: Known): Draft[] {
  const placed = partFor(facts, kind, role);
  const index = machine.parts.findIndex((part) => part.id === placed?.id);
  if (index < 0) return [];
  const known = facts.catalogue.parts.filter((part) => part.kind === kind);
  return [
    choice(label, ['parts', index, 'part'], Object.fromEntries(known.map((part) => [part.id, part.name]))),
  ];
}
