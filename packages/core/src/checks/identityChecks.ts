import { markText, misread } from '../board/markText';
import type { Facts } from '../machine/facts';
import { overrideEdit } from '../machine/edit';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';

function revisionUnknown({ machine, board, catalogue }: Facts): Spoken[] {
  const sisters = catalogue.boards.filter(({ id }) => id === board.id);
  if (machine.board.revision_seen !== false || sisters.length < 2) return [];
  return [
    {
      subject: { kind: 'fact', id: 'board.revision_seen' },
      what: `The revision of the ${board.name} is a guess: rev ${board.revision}.`,
      why: 'Revisions differ in chip, pins and pull-ups, and an image for one may be dead on another. Read it off the board.',
      evidence: sisters.map(({ revision }) => `rev ${revision} is in the catalogue`),
      remedies: [
        {
          label: `I read it: rev ${board.revision}`,
          edits: [{ path: ['board', 'revision_seen'], value: true }],
        },
      ],
    },
  ];
}

/** Worn letters cost a little each; one wrong letter is another chip. */
const WORN = 0.5;

function chipMismatch({ machine, board, chip }: Facts): Spoken[] {
  const { marking } = machine.board;
  if (marking === undefined || misread(markText(marking), markText(chip.marking)) <= WORN) return [];
  return [
    {
      subject: { kind: 'machine', id: board.id },
      what: `The chip reads ${marking}; ${board.name} rev ${board.revision} has a ${chip.name}, marked ${chip.marking}.`,
      why: 'An image is built for a chip, not for a name. Find the revision with this chip, at Survey.',
      evidence: [`read: ${marking}`, `expected: ${chip.marking}`],
    },
  ];
}

function baseVersion({ machine, kit }: Facts): Spoken[] {
  const { base } = machine;
  if (!base || (base.kit === kit.id && base.version === kit.version)) return [];
  return [
    {
      subject: { kind: 'fact', id: 'base' },
      what: `The configuration began with ${base.kit} ${base.version}; the kit is ${kit.name} ${kit.version}.`,
      why: 'Sources and configuration of different versions are the classic reason for a build that fails. Go through what changed, then say so.',
      evidence: [`base: ${base.kit} ${base.version}`, `kit: ${kit.id} ${kit.version}`],
      remedies: [
        {
          label: `It is gone through for ${kit.version}`,
          edits: [{ path: ['base'], value: { kit: kit.id, version: kit.version } }],
        },
      ],
    },
  ];
}

function wordSize({ kit, chip }: Facts, settings: Settings): Spoken[] {
  return kit.options.flatMap(({ key, label, wants_bits: wants }) => {
    if (!wants || chip.word_bits >= wants.bits || settings.get(key)?.value !== wants.value) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `${label} “${String(wants.value)}” wants a chip of ${wants.bits} bits; ${chip.name} has ${chip.word_bits}.`,
        why: 'It would compute too slowly, and moves would stutter.',
        evidence: [asSet(settings, key), `${chip.name}: ${chip.word_bits} bits`],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

function serialClash(_facts: Facts, settings: Settings): Spoken[] {
  const display = settings.get('link.display-port');
  if (!display || display.value !== settings.get('link.host-port')?.value) return [];
  const free = display.value === 'first' ? 'second' : 'first';
  return [
    {
      subject: aboutSetting('link.display-port'),
      what: `Host link and display both sit on the ${String(display.value)} serial port.`,
      why: 'Each would hear what is meant for the other. The build would fail.',
      evidence: [asSet(settings, 'link.host-port'), asSet(settings, 'link.display-port')],
      remedies: [
        {
          label: `Display on the ${free} port`,
          edits: [overrideEdit('link.display-port', free, 'the other port is the host link')],
        },
        {
          label: 'No serial display',
          edits: [overrideEdit('link.display-port', 'none', 'the host has that port')],
        },
      ],
    },
  ];
}

function secondPort({ board }: Facts, settings: Settings): Spoken[] {
  if (settings.get('link.host-port')?.value !== 'second') return [];
  const { receive, send } = board.host_serial;
  return [
    {
      subject: aboutSetting('link.host-port'),
      what: `The host is to be heard on the second serial port; of ${board.name} only one is described.`,
      why: 'Plugged in as usual it would hear nothing, and you could stop nothing. Keep the first, unless you know where the second comes out.',
      evidence: [asSet(settings, 'link.host-port'), `${board.name}: the host on p${receive} and p${send}`],
      remedies: resetRemedy(settings, 'link.host-port'),
    },
  ];
}

/** Above this, long or poor cables lose characters. */
const USUAL_BAUD = 250_000;

function baudUnusual(_facts: Facts, settings: Settings): Spoken[] {
  const baud = numberOf(settings, 'link.baud');
  if (baud <= USUAL_BAUD) return [];
  return [
    {
      subject: aboutSetting('link.baud'),
      what: `${baud} baud is a lot for a long host link.`,
      why: 'Lost characters show as stutter and false alarms. If you see either, go down to 250000 first.',
      evidence: [asSet(settings, 'link.baud')],
    },
  ];
}

export const identityChecks: Check[] = [
  { id: 'board.chip-mismatch', severity: 'stop', run: chipMismatch },
  { id: 'board.revision-unknown', severity: 'mend', run: revisionUnknown },
  { id: 'kit.base-version', severity: 'mend', run: baseVersion },
  { id: 'kit.word-size', severity: 'mend', run: wordSize },
  { id: 'serial.clash', severity: 'stop', run: serialClash },
  { id: 'serial.second-port', severity: 'mend', run: secondPort },
  { id: 'serial.baud-unusual', severity: 'note', run: baudUnusual },
];
