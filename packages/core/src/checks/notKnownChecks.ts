import { questionOf } from '../describe/pages';
import type { Spoken } from '../finding/finding';
import { type Facts, partFor } from '../machine/facts';
import { type Machine, MOTOR_AXES, type MotorAxis } from '../machine/machine';
import { touchesWithNozzle } from '../settings/probeAt';
import { inSeries } from '../text/inSeries';
import type { Check } from './check';

const nameOf = (axis: MotorAxis): string => (axis === 'e' ? 'the extruder' : axis.toUpperCase());

/** Facts of every axis that a machine file may be without, and that something rests on: asked for in one. */
const OF_AXES: readonly { facts: readonly string[]; what: string; how: string }[] = [
  {
    facts: ['plus'],
    what: 'which way the shaft turns towards plus',
    how: 'Unplug, push the axis by hand and look at the end of its motor’s shaft. Until then the kit decides: first moves are small, with a hand on the switch.',
  },
  {
    facts: ['speed', 'accel'],
    what: 'which speed and acceleration are known to go well',
    how: 'What the slicer or the old board was set to. Until then the kit’s own values hold, and nobody knows whether this machine stands them.',
  },
];

const OF_AN_AXIS = /^[xyze]\.(plus|speed|accel)$/;
/** Of a nozzle that is its own probe there is none. */
const OF_THE_MOUNT = /^mount\./;

/** What nobody has been able to say of a machine, as questions; one that a part or a fact has answered since is gone. */
function notKnown(facts: Facts): Spoken[] {
  const { machine } = facts;
  const isOpen = (id: string): boolean => questionOf(id)?.read(machine) === undefined;
  const ofAxes = OF_AXES.flatMap(({ facts, what, how }): Spoken[] => {
    const axes = MOTOR_AXES.filter((axis) => facts.some((fact) => isOpen(`${axis}.${fact}`)));
    if (axes.length === 0) return [];
    const names = axes.map(nameOf);
    return [
      {
        subject: { kind: 'fact', id: `axes.${facts.join('-')}` },
        what: `Not known yet of ${inSeries(names)}: ${what}.`,
        why: how,
        evidence: ['the machine file says nothing of it'],
      },
    ];
  });
  const others = (machine.not_known ?? []).filter(
    (id) => !OF_AN_AXIS.test(id) && !(OF_THE_MOUNT.test(id) && touchesWithNozzle(facts)),
  );
  return [...ofAxes, ...others.flatMap((id) => openQuestion(machine, id))];
}

function openQuestion(machine: Machine, id: string): Spoken[] {
  const question = questionOf(id);
  if (!question || question.read(machine) !== undefined) return [];
  const label =
    question.kind === 'part' && question.optional
      ? 'There is none'
      : question.unsaid && `Say: ${question.unsaid}`;
  return [
    {
      subject: { kind: 'fact', id },
      what: `Not known yet: ${question.label}.`,
      why: [question.how, 'Until then whatever rests on it is not known either.'].filter(Boolean).join(' '),
      evidence: ['the machine file says nothing of it'],
      remedies: label === undefined ? [] : [{ label, edits: [{ path: ['not_known'], value: without(machine.not_known, id) }] }], // prettier-ignore
    },
  ];
}

const without = (ids: readonly string[] | undefined, id: string): string[] | undefined => {
  const left = (ids ?? []).filter((entry) => entry !== id);
  return left.length > 0 ? left : undefined;
};

/** What `not_known` says of a place that was proposed for a part, and that nobody has compared with its leads. */
export const proposedPlace = (part: string): string => `harness.${part}`;
const PROPOSED = /^harness(\.|$)/;

/** The parts whose places were proposed and not seen yet; one that lost its place since is none of them. */
export function proposedParts({ not_known: open = [], harness, parts }: Machine): string[] {
  return parts
    .map(({ id }) => id)
    .filter((part) => harness[part] && (open.includes(proposedPlace(part)) || open.includes('harness')));
}

/** What `not_known` is once somebody has followed the leads of these parts to their plugs. */
export function notKnownWithout(machine: Machine, parts: readonly string[]): string[] | undefined {
  const still = proposedParts(machine).filter((part) => !parts.includes(part));
  const others = (machine.not_known ?? []).filter((id) => !PROPOSED.test(id));
  const left = [...others, ...still.map(proposedPlace)];
  return left.length > 0 ? left : undefined;
}

function proposedHarness({ machine }: Facts): Spoken[] {
  const parts = proposedParts(machine);
  if (parts.length === 0) return [];
  return [
    {
      subject: { kind: 'fact', id: 'harness' },
      what: 'Nobody has compared the leads with the places that were proposed.',
      why: 'An image for leads that sit elsewhere drives the wrong heater. Unplug, follow every lead to its plug, and put right here what sits elsewhere.',
      evidence: [`proposed, not seen: ${parts.join(', ')}`],
      remedies: [
        {
          label: 'I have followed every lead',
          edits: [{ path: ['not_known'], value: notKnownWithout(machine, parts) }],
        },
      ],
    },
  ];
}

/** Bodies that are heated and whose temperature nobody would know. */
function heaterWithoutSensor({ parts }: Facts): Spoken[] {
  return parts.flatMap(({ id, type, role }): Spoken[] =>
    type.kind === 'heater' && !parts.some((other) => other.type.kind === 'thermistor' && other.role === role)
      ? [
          {
            subject: { kind: 'part', id },
            what: `${id} has no sensor beside it.`,
            why: 'A heater whose temperature nobody knows burns. Say which sensor it has, or that there is no such heater.',
            evidence: [`${type.name}, serves ${role}`, `no sensor serves ${role}`],
          },
        ]
      : [],
  );
}

/** A machine that prints has a hot end; a file that knows nothing of one is not whole. */
function hotEndUnknown(facts: Facts): Spoken[] {
  const asked = facts.machine.not_known?.includes('hotend.heater');
  if (asked || partFor(facts, 'heater', 'hotend')) return [];
  return [
    {
      subject: { kind: 'fact', id: 'hotend.heater' },
      what: 'What heats the hot end?',
      why: 'Nobody has said which heater and sensor it has. Until then no image heats it, guards it, or feeds filament. Add it at Survey: another hot end.',
      evidence: ['no heater among the parts serves the hot end'],
    },
  ];
}

/** Heaters that nobody has seen warm: the guard's windows are not theirs. */
function unseenHeater({ parts }: Facts): Spoken[] {
  return parts.flatMap(({ id, type }): Spoken[] =>
    type.kind === 'heater' && !type.body
      ? [
          {
            subject: { kind: 'part', id },
            what: `Nobody has seen yet how ${type.name} warms.`,
            why: 'Its guard works with the windows of the kit: too narrow stops a healthy print, too wide sees a fault late. Fit its curve when it has been warmed under your eyes.',
            evidence: [`${type.name}: no warming curve`],
          },
        ]
      : [],
  );
}

export const notKnownChecks: Check[] = [
  { id: 'fact.not-known', severity: 'question', run: notKnown },
  { id: 'heat.no-sensor', severity: 'stop', run: heaterWithoutSensor },
  { id: 'harness.proposed', severity: 'question', run: proposedHarness },
  { id: 'heat.no-hotend', severity: 'question', run: hotEndUnknown },
  { id: 'heat.unseen', severity: 'question', run: unseenHeater },
];
