import type { Path } from '@jolly/core/tree/path';
import { valueAt } from '@jolly/core/tree/path';
import type { AxisDrive } from '@jolly/core/machine/axisDrive';
import { type Machine, type MotorAxis, SECOND_HOTEND } from '@jolly/core/machine/machine';
import { secondMotor } from '@jolly/core/machine/secondMotor';
import type { PartKind } from '@jolly/core/parts/part';
import { driverOf, partFor } from '@jolly/core/machine/facts';
import { touchesWithNozzle } from '@jolly/core/settings/probeAt';
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

/** `shown` is the choice that holds, where the machine file keeps it as no plain word. */
type Draft = Omit<FactField, 'value'> & { shown?: string };
const number = (label: string, path: (string | number)[], unit: string, empty?: string): Draft => ({
  label,
  path,
  unit,
  kind: 'number',
  ...(empty && { empty }),
});
const choice = (
  label: string,
  path: (string | number)[],
  choices: Record<string, string>,
  empty?: string,
): Draft => ({
  label,
  path,
  kind: 'choice',
  ...(empty && { empty }),
  choices: Object.entries(choices).map(([value, text]) => ({ value, label: text })),
});

/** The facts that belong to a part of the machine. */
export function factsOf(part: PartId, known: Known): FactField[] {
  return drafts(part, known).map(({ shown, ...draft }) => ({
    ...draft,
    value: shown ?? plainAt(known.machine, draft.path),
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
          shown: String(known.machine.board.revision_seen !== false),
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
        ...(partFor(known.facts, 'switch', part)
          ? [
              choice(
                'Switch is met',
                ['frame', 'switch_at', part],
                { min: 'at the low end', max: 'at the high end' },
                NOT_KNOWN,
              ),
            ]
          : []),
        ...driveFacts(part, known),
      ];
    case 'e':
      return [...driveFacts('e', known), ...secondDriveFacts(known)];
    case 'hotend':
    case 'bed':
    case 'chamber':
      return [
        partChoice('Heater', 'heater', part, known),
        partChoice('Sensor', 'thermistor', part, known),
        ...(part === 'hotend'
          ? [
              partChoice('Second: Heater', 'heater', SECOND_HOTEND, known),
              partChoice('Second: Sensor', 'thermistor', SECOND_HOTEND, known),
            ]
          : []),
      ].flat();
    case 'probe':
      return known.machine.probe_mount && !touchesWithNozzle(known.facts)
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

const NOT_KNOWN = 'not known';
const MICROSTEPS = Object.fromEntries([1, 2, 4, 8, 16, 32, 64, 128, 256].map((of) => [of, String(of)]));

/** What the motor of an axis turns, and how it may go. */
function turnedBy(axis: MotorAxis | 'e2', drive: AxisDrive): { turns: Draft[]; goes: Draft[] } {
  const geometry = {
    belt: [
      number('Pulley', ['axes', axis, 'teeth'], 'teeth'),
      number('Belt pitch', ['axes', axis, 'pitch_mm'], 'mm'),
    ],
    screw: [number('Screw lead', ['axes', axis, 'lead_mm'], 'mm')],
    roller: [number('Roller diameter', ['axes', axis, 'diameter_mm'], 'mm')],
  }[drive.kind];
  return {
    turns: [
      ...geometry,
      number('Motor turns per output turn', ['axes', axis, 'gear_ratio'], '', '1, direct'),
    ],
    goes: [
      choice(
        'Shaft turns, towards plus',
        ['axes', axis, 'plus_is'],
        { clockwise: 'clockwise', anticlockwise: 'anticlockwise' },
        NOT_KNOWN,
      ),
      number('Top speed', ['axes', axis, 'max_speed_mm_s'], 'mm/s', NOT_KNOWN),
      number('Acceleration', ['axes', axis, 'max_accel_mm_s2'], 'mm/s²', NOT_KNOWN),
    ],
  };
}

/** A second extruder is like the first until somebody says what is other with it. */
function secondDriveFacts({ machine, facts }: Known): Draft[] {
  const { e, e2 } = machine.axes;
  if (!secondMotor(facts, 'e')) return [];
  const own = e2 && turnedBy('e2', e2);
  return [
    {
      ...choice('Second extruder', ['axes', 'e2'], {
        alike: 'has the same drive',
        own: 'has a drive of its own',
      }),
      read: (raw) => (raw === 'own' ? (e2 ?? e) : undefined),
      shown: e2 ? 'own' : 'alike',
    },
    ...[...(own?.turns ?? []), ...(own?.goes ?? [])].map((draft) => ({
      ...draft,
      label: `Second: ${draft.label}`,
    })),
  ];
}

function driveFacts(axis: MotorAxis, { machine, facts }: Known): Draft[] {
  const { turns, goes } = turnedBy(axis, machine.axes[axis]);
  const driver = driverOf(facts, partFor(facts, 'motor', axis));
  const index = machine.parts.findIndex((part) => part.id === driver?.id);
  return [
    ...turns,
    ...(index >= 0
      ? [
          {
            ...choice('Microsteps', ['parts', index, 'microsteps'], MICROSTEPS),
            read: Number,
          },
        ]
      : []),
    ...(index >= 0
      ? [
          choice(
            'Driver is cooled by',
            ['parts', index, 'cooling'],
            { sink: 'its heat sink', bare: 'nothing', blown: 'a fan blowing at it' },
            'not said: as with a heat sink',
          ),
        ]
      : []),
    ...goes,
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
