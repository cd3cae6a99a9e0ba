import { boardPullUp } from '../circuit/circuit';
import { hasAdapter } from '../circuit/loads';
import { pinOf } from '../circuit/pinTable';
import { overrideEdit } from '../machine/edit';
import { type Facts, partsOf, type PlacedPart } from '../machine/facts';
import type { Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

/** Every input that only ever pulls down, with the setting that switches the chip's own pull-up on. */
function pulledInputs(facts: Facts): { part: PlacedPart; key: string }[] {
  const probe = partsOf(facts, 'probe').filter((part) => part.type.output === 'open-collector');
  return [
    ...partsOf(facts, 'switch')
      .filter(({ type }) => type.output !== 'driven')
      .map((part) => ({ part, key: `switch.${part.role}.pull-up` })),
    ...probe.map((part) => ({ part, key: 'probe.pull-up' })),
  ];
}

function noPullUp(facts: Facts, settings: Settings): Spoken[] {
  return pulledInputs(facts).flatMap(({ part, key }) => {
    const pin = pinOf(facts, part, 'signal');
    if (
      pin === undefined ||
      boardPullUp(facts, pin) ||
      hasAdapter(part, 'pull-up') ||
      settings.get(key)?.value === true
    )
      return [];
    return [
      {
        subject: { kind: 'setting', id: key } as const,
        what: `Nothing pulls the input of ${part.id} up.`,
        why: 'An open input floats and reads whatever is near it. The chip has a pull-up of its own that can be switched on.',
        evidence: [`p${pin}: no resistor on ${facts.board.name}`, `${key}: off`],
        remedies: [
          {
            label: "Switch the chip's pull-up on",
            edits: [overrideEdit(key, true, `no resistor on ${facts.board.name}`)],
          },
        ],
      },
    ];
  });
}

function openOnBreak(facts: Facts): Spoken[] {
  return partsOf(facts, 'switch')
    .filter((part) => part.type.contact === 'normally-open' && part.type.output === undefined)
    .map((part) => ({
      subject: { kind: 'part', id: part.id },
      what: `${part.id} is normally open: a broken wire looks like "not pressed".`,
      why: 'A normally closed switch shows a broken wire at once, before the axis runs into the frame.',
      evidence: [part.type.name],
    }));
}

export const switchChecks: Check[] = [
  { id: 'level.no-pull-up', severity: 'mend', run: noPullUp },
  { id: 'endstop.open-on-break', severity: 'note', run: openOnBreak },
];
