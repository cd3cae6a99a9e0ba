import { type Facts, partFor, partsOf } from '../machine/facts';
import { AXES, type Axis } from '../machine/machine';
import { TOLERANCE } from '../calculation/calculation';
import { reachOf } from '../settings/reachOf';
import { numberOf, type Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';
import { overrideEdit } from '../machine/edit';
import { asSet, resetRemedy } from '../finding/settingFinding';

const zByProbe = (settings: Settings) => settings.get('home.z.with')?.value === 'probe';

function spotUnreachable(_facts: Facts, settings: Settings): Spoken[] {
  if (!zByProbe(settings)) return [];
  const reach = reachOf(settings);
  return (['x', 'y'] as const).flatMap((axis) => {
    const key = `home.spot.${axis}`;
    const at = numberOf(settings, key);
    const limits = reach?.[axis];
    if (limits && at >= limits[0] - TOLERANCE && at <= limits[1] + TOLERANCE) return [];
    return [
      {
        subject: { kind: 'setting', id: key } as const,
        what: `The probe cannot reach the Z home spot in ${axis.toUpperCase()}.`,
        why: 'Homing Z would probe beside the plate, or the move would be refused.',
        evidence: [
          `spot at ${at} mm`,
          limits ? `probe reaches ${limits[0]} to ${limits[1]} mm` : 'the probe reaches no part of the plate',
        ],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

function directionAway(facts: Facts, settings: Settings): Spoken[] {
  return AXES.flatMap((axis) => {
    if (axis === 'z' && zByProbe(settings)) {
      return settings.get('home.z.side')?.value === 'min'
        ? []
        : [away(settings, axis, 'the bed is at the low end')];
    }
    const at = facts.machine.frame.switch_at[axis];
    if (at === undefined || settings.get(`home.${axis}.side`)?.value === at) return [];
    return [away(settings, axis, `its switch is at the ${at === 'min' ? 'low' : 'high'} end`)];
  });
}

/** Which end it is was asked, and is a question of its own. */
const isAsked = ({ machine }: Facts, axis: Axis): boolean =>
  machine.not_known?.includes(`end.${axis}`) === true;

function endUnknown(facts: Facts, settings: Settings): Spoken[] {
  return AXES.filter(
    (axis) =>
      partFor(facts, 'switch', axis) &&
      facts.machine.frame.switch_at[axis] === undefined &&
      !(axis === 'z' && zByProbe(settings)) &&
      !isAsked(facts, axis),
  ).map((axis) => ({
    subject: { kind: 'fact', id: `frame.switch_at.${axis}` },
    what: `At which end of ${axis.toUpperCase()} is its switch?`,
    why: 'Until somebody says so, homing goes the kit’s way; if that is the other end, the axis runs into the frame. Unplug, push the axis by hand and listen for the click.',
    evidence: [asSet(settings, `home.${axis}.side`), 'the machine file says nothing of the switch’s end'],
    remedies: (['min', 'max'] as const).map((end) => ({
      label: `At the ${end === 'min' ? 'low' : 'high'} end`,
      edits: [{ path: ['frame', 'switch_at', axis], value: end }],
    })),
  }));
}

function away(settings: Settings, axis: string, because: string): Spoken {
  const key = `home.${axis}.side`;
  return {
    subject: { kind: 'setting', id: key },
    what: `${axis.toUpperCase()} homes away from its switch.`,
    why: `It would run into the frame; ${because}.`,
    evidence: [`${key}: ${String(settings.get(key)?.value)}`, because],
    remedies: resetRemedy(settings, key),
  };
}

function noSwitch(facts: Facts, settings: Settings): Spoken[] {
  return AXES.filter(
    (axis) =>
      !partFor(facts, 'switch', axis)?.landing &&
      !(axis === 'z' && zByProbe(settings) && partsOf(facts, 'probe').length > 0) &&
      !isOn(settings, `stall.${axis}`),
  ).map((axis) => ({
    subject: { kind: 'setting', id: axis === 'z' ? 'home.z.with' : `home.${axis}.side` },
    what: `${axis.toUpperCase()} has nothing that tells where it is.`,
    why: 'Homing would run until the axis meets the frame.',
    evidence: [
      `no connected switch for ${axis}`,
      ...(axis === 'z' ? [`home.z.with: ${String(settings.get('home.z.with')?.value)}`] : []),
    ],
    remedies: axis === 'z' ? resetRemedy(settings, 'home.z.with') : [],
  }));
}

function twoMasters(facts: Facts, settings: Settings): Spoken[] {
  const zSwitch = partFor(facts, 'switch', 'z');
  if (!zSwitch?.landing || !zByProbe(settings)) return [];
  return [
    {
      subject: { kind: 'part', id: zSwitch.id },
      what: 'Both a Z switch and the probe would find Z.',
      why: 'Whichever comes first wins, and the offset is wrong for the other. Unplug the switch, or home with it.',
      evidence: [`${zSwitch.id} is connected`, 'home.z.with: probe'],
      remedies: resetRemedy(settings, 'home.z.with'),
    },
  ];
}

function tooFast(_facts: Facts, settings: Settings): Spoken[] {
  return AXES.flatMap((axis) => {
    const [home, top] = [numberOf(settings, `home.speed.${axis}`), numberOf(settings, `speed.${axis}`)];
    if (home <= top + TOLERANCE) return [];
    const key = `home.speed.${axis}`;
    return [
      {
        subject: { kind: 'setting', id: key } as const,
        what: `${axis.toUpperCase()} would home at ${home} mm/s; it may go ${top} mm/s.`,
        why: 'Faster than it is known to move well, it loses steps on the way, or goes slower than you think.',
        evidence: [asSet(settings, key, 'mm/s'), asSet(settings, `speed.${axis}`, 'mm/s')],
        remedies: [
          {
            label: `Home at ${top / 2} mm/s`,
            edits: [overrideEdit(key, top / 2, 'half of what the axis may go')],
          },
        ],
      },
    ];
  });
}

export const homingChecks: Check[] = [
  { id: 'home.spot-unreachable', severity: 'stop', run: spotUnreachable },
  { id: 'home.direction', severity: 'stop', run: directionAway },
  { id: 'home.switch-end', severity: 'question', run: endUnknown },
  { id: 'home.no-switch', severity: 'stop', run: noSwitch },
  { id: 'home.too-fast', severity: 'mend', run: tooFast },
  { id: 'home.two-masters', severity: 'mend', run: twoMasters },
];
