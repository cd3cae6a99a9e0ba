import { optionOf } from '../kit/optionOf';
import { unheard } from '../settings/hearing';
import type { Facts } from '../machine/facts';
import { overrideEdit } from '../machine/edit';
import { baudError } from '../electricity/baudError';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Remedy, Spoken } from '../finding/finding';

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

const baudErrors = ({ chip }: Facts, baud: number) =>
  ([16, 8] as const).map((divider) => ({
    divider,
    ...baudError.ofChecked({ clockHz: chip.clock_hz, baud, divider }),
  }));

/** The fastest speed up to a wanted one that this chip makes closely enough, else the slowest beyond it. */
function baudOf(facts: Facts, wanted: number): Remedy[] {
  const option = optionOf(facts.kit, 'link.baud');
  const made = (option?.kind === 'choice' ? option.choices : [])
    .map(Number)
    .filter((baud) => baudErrors(facts, baud).some(({ verdict }) => verdict !== 'no'))
    .sort((a, b) => a - b);
  const baud = made.findLast((one) => one <= wanted) ?? made[0];
  if (baud === undefined) return [];
  const off = Math.min(...baudErrors(facts, baud).map(({ errorPct }) => Math.abs(errorPct)));
  const because = `${facts.chip.name} makes it within ${off.toFixed(1)} %`;
  return [{ label: `Use ${baud} baud`, edits: [overrideEdit('link.baud', baud, because)] }];
}

function baudOff(facts: Facts, settings: Settings): Spoken[] {
  const { chip } = facts;
  const baud = numberOf(settings, 'link.baud');
  const errors = baudErrors(facts, baud);
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
      remedies: baudOf(facts, baud),
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
