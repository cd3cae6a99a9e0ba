import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import { AXES } from '../machine/machine';
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

function travelBackwards(_facts: Facts, settings: Settings): Spoken[] {
  return AXES.flatMap((axis) => {
    const [low, high] = spanOf(settings, `travel.${axis}`);
    const own = (['min', 'max'] as const).map((end) => `travel.${axis}.${end}`).find((key) => settings.get(key)?.hidden);
    if (low < high) return [];
    return [
      {
        subject: aboutSetting(own ?? `travel.${axis}.max`),
        what: `Travel of ${axis.toUpperCase()} ends before it begins.`,
        why: 'Every move would be refused. The build would fail.',
        evidence: [asSet(settings, `travel.${axis}.min`, 'mm'), asSet(settings, `travel.${axis}.max`, 'mm')],
        remedies: own === undefined ? [] : resetRemedy(settings, own),
      },
    ];
  });
} // prettier-ignore

export const frameChecks: Check[] = [
  { id: 'frame.travel-backwards', severity: 'stop', run: travelBackwards },
  { id: 'frame.bed-outside-travel', severity: 'stop', run: bedOutsideTravel },
  { id: 'frame.travel-over-frame', severity: 'stop', run: travelOverFrame },
];
