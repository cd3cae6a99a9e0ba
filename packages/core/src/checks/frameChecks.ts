import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import { AXES, type Axis } from '../machine/machine';
import { TOLERANCE } from '../calculation/calculation';
import { type Settings, spanOf } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';

function bedOutsideTravel(_facts: Facts, settings: Settings): Spoken[] {
  return (['x', 'y'] as const).flatMap((axis) => {
    const bed = spanOf(settings, `bed.${axis}`);
    const travel = spanOf(settings, `travel.${axis}`);
    if (bed[0] >= travel[0] - TOLERANCE && bed[1] <= travel[1] + TOLERANCE) return [];
    return [
      {
        subject: { kind: 'setting', id: bed[1] > travel[1] ? `bed.${axis}.max` : `bed.${axis}.min` } as const,
        what: `The nozzle cannot reach the whole plate in ${axis.toUpperCase()}.`,
        why: 'The slicer would place parts where the machine cannot print them.',
        evidence: [`plate ${bed[0]} to ${bed[1]} mm`, `travel ${travel[0]} to ${travel[1]} mm`],
      },
    ];
  });
}

function travelOverFrame({ machine }: Facts, settings: Settings): Spoken[] {
  return AXES.flatMap((axis): Spoken[] => {
    const travel = spanOf(settings, `travel.${axis}`);
    const room = machine.frame.room_mm?.[axis];
    const length = travel[1] - travel[0];
    if (room === undefined) {
      return [
        {
          severity: 'question',
          subject: { kind: 'fact', id: `frame.room_mm.${axis}` },
          what: `How far can ${axis.toUpperCase()} go before it meets the frame?`,
          why: 'Without it nobody can tell whether the travel is safe. Push the axis by hand, unpowered, from end to end and measure.',
          evidence: [`travel set to ${length} mm`],
        },
      ];
    }
    if (length <= room + TOLERANCE) return [];
    return [
      {
        subject: { kind: 'setting', id: `travel.${axis}.max` },
        what: `Travel of ${axis.toUpperCase()} is ${length} mm; the frame allows ${room} mm.`,
        why: 'The axis would be driven into the frame.',
        evidence: [`travel ${travel[0]} to ${travel[1]} mm`, `room ${room} mm`],
        remedies: [
          {
            label: `End the travel at ${travel[0] + room} mm`,
            edits: [overrideEdit(`travel.${axis}.max`, travel[0] + room, `the frame allows ${room} mm`)],
          },
        ],
      },
    ];
  });
}

/** Spans that are set to end before they begin, each told with what would come of it. */
const backwards =
  (span: 'travel' | 'bed', axes: readonly Axis[], name: (axis: string) => string, then: string) =>
  (_facts: Facts, settings: Settings): Spoken[] =>
    axes.flatMap((axis) => {
      const ends = (['min', 'max'] as const).map((end) => `${span}.${axis}.${end}`);
      const [low, high] = spanOf(settings, `${span}.${axis}`);
      if (low < high) return [];
      const own = ends.find((key) => settings.get(key)?.hidden);
      return [
        {
          subject: aboutSetting(own ?? `${span}.${axis}.max`),
          what: `${name(axis.toUpperCase())} ends before it begins.`,
          why: `${then} The build would fail.`,
          evidence: ends.map((key) => asSet(settings, key, 'mm')),
          remedies: own === undefined ? [] : resetRemedy(settings, own),
        },
      ];
    });
const travelBackwards = backwards(
  'travel',
  AXES,
  (axis) => `Travel of ${axis}`,
  'Every move would be refused.',
);
const plateBackwards = backwards('bed', ['x', 'y'], (axis) => `The plate, in ${axis},`, 'It has no area.');

export const frameChecks: Check[] = [
  { id: 'frame.travel-backwards', severity: 'stop', run: travelBackwards },
  { id: 'frame.plate-backwards', severity: 'stop', run: plateBackwards },
  { id: 'frame.bed-outside-travel', severity: 'stop', run: bedOutsideTravel },
  { id: 'frame.travel-over-frame', severity: 'stop', run: travelOverFrame },
];
