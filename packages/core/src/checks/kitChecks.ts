import { unheard } from '../settings/hearing';
import type { Facts } from '../machine/facts';
import { overrideEdit } from '../machine/edit';
import { baudError } from '../electricity/baudError';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

function untestedTarget({ kit, board }: Facts): Spoken[] {
  if (kit.targets.some((target) => target.board === board.id && target.revision === board.revision))
    return [];
  return [
    {
      subject: { kind: 'machine', id: board.id },
      what: `${kit.name} ${kit.version} was never tested on ${board.name} rev ${board.revision}.`,
      why: 'It may well work; build and flash it unchanged first.',
      evidence: kit.targets.map((target) => `tested: ${target.board} rev ${target.revision}`),
    },
  ];
}

function baudOff({ chip }: Facts, settings: Settings): Spoken[] {
  const baud = numberOf(settings, 'link.baud');
  const errors = ([16, 8] as const).map((divider) => ({
    divider,
    ...baudError.ofChecked({ clockHz: chip.clock_hz, baud, divider }),
  }));
  if (errors.some((error) => error.verdict !== 'no')) return [];
  return [
    {
      subject: { kind: 'setting', id: 'link.baud' },
      what: `${chip.name} cannot make ${baud} baud closely enough.`,
      why: 'More than 2.5 % off, characters are lost on the link.',
      evidence: errors.map(
        (error) =>
          `divider ${error.divider}: ${error.actual.toFixed(0)} baud, ${error.errorPct.toFixed(2)} %`,
      ),
      remedies: [
        {
          label: 'Use 250000 baud',
          edits: [overrideEdit('link.baud', 250000, `${chip.name} makes it exactly`)],
        },
      ],
    },
  ];
}

/** Parts that are wired and that this version of the kit leaves alone. */
function unheardParts(facts: Facts): Spoken[] {
  const { name, version } = facts.kit;
  return facts.parts.flatMap((part): Spoken[] => {
    const left = part.landing && unheard(facts, part);
    if (!left) return [];
    return [
      {
        subject: { kind: 'part', id: part.id },
        what:
          part.type.kind === 'driver' && part.type.mode !== 'stand-alone'
            ? `${name} ${version} steps ${part.id}, and tells it neither current nor mode.`
            : `${name} ${version} does nothing with ${part.id}, which is wired.`,
        why: left.without,
        evidence: [
          part.type.name,
          left.from ? `${name} ${left.from} will` : `no version of ${name} is planned that will`,
        ],
      },
    ];
  });
}

export const kitChecks: Check[] = [
  { id: 'serial.baud-error', severity: 'mend', run: baudOff },
  { id: 'kit.unheard', severity: 'mend', run: unheardParts },
  { id: 'kit.untested-target', severity: 'note', run: untestedTarget },
];
