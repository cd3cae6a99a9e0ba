import { pinInWords, pinTable } from '../circuit/pinTable';
import { optionOf } from '../kit/optionOf';
import { settingInWords } from '../kit/settingInWords';
import { foundByBoard } from '../kit/storedSettings';
import { builtOtherwise } from '../settings/asBuilt';
import { fitFindings } from '../build/fitFindings';
import { wayBackFindings } from '../image/wayBack';
import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import { alike } from '../settings/alike';
import { carryOver } from '../settings/carryOver';
import { measuredEdit } from '../settings/measuredEdit';
import type { Settings } from '../settings/setting';
import { type Check, type Having, needing } from './check';
import type { Finding, Spoken } from '../finding/finding';
import { aboutSetting } from '../finding/settingFinding';

const spoken = ({ subject, what, why, evidence }: Finding): Spoken => ({ subject, what, why, evidence });
const aboutBoard = ({ board }: Facts) => ({ kind: 'machine' as const, id: board.id });
const hex = (value: number) => `0x${value.toString(16)}`;

const fit = (id: string) =>
  needing(['sizes'], ({ chip }, _settings, { sizes }) =>
    fitFindings(sizes, chip)
      .filter((finding) => finding.id === id)
      .map(spoken),
  );

function imageOffset(facts: Facts, _settings: Settings, { image }: Having<'image'>): Spoken[] {
  const { load_address: wanted } = facts.board.routes[0];
  if (image.loadAddress === undefined || image.loadAddress === wanted) return [];
  return [
    {
      subject: aboutBoard(facts),
      what: `${image.name} begins at ${hex(image.loadAddress)}; images of this board begin at ${hex(wanted)}.`,
      why: 'The board would be silent until it is flashed again. Build for this board.',
      evidence: [`image: ${hex(image.loadAddress)}`, `${facts.board.name}: ${hex(wanted)}`],
    },
  ];
}

function imageTarget(facts: Facts, _settings: Settings, { image }: Having<'image'>): Spoken[] {
  const { target } = facts.board.routes[0];
  if (image.target === undefined || image.target === target) return [];
  return [
    {
      subject: aboutBoard(facts),
      what: `${image.name} is made for ${image.target}; this board is ${target}.`,
      why: 'Its pins are those of another board. Build for this one.',
      evidence: [`image: ${image.target}`, `board: ${target}`],
    },
  ];
}

function imageImplausible(facts: Facts, _settings: Settings, { image }: Having<'image'>): Spoken[] {
  if (image.against.length === 0) return [];
  return [
    {
      subject: aboutBoard(facts),
      what: `${image.name} cannot be an image of this board as it is.`,
      why: 'The chip would not start from it. Build or fetch it anew, or take another.',
      evidence: image.against,
    },
  ];
}

function noBootloader(facts: Facts, _settings: Settings, { bootloader }: Having<'bootloader'>): Spoken[] {
  if (bootloader === 'there') return [];
  return [
    {
      subject: aboutBoard(facts),
      what: `This route to ${facts.board.name} needs a bootloader; it is ${bootloader === 'absent' ? 'not there' : 'not proven'}.`,
      why: 'Without one nothing takes the file. Trying is harmless; a programmer or a debug probe needs none.',
      evidence: [`bootloader: ${bootloader}`],
    },
  ];
}

function storeLayout(facts: Facts, _settings: Settings, { store }: Having<'store'>): Spoken[] {
  if (store !== 'other-layout' && store !== 'damaged') return [];
  return [
    {
      subject: aboutBoard(facts),
      what:
        store === 'damaged'
          ? 'The stored settings are damaged.'
          : 'The stored settings were written by another image.',
      why:
        store === 'damaged'
          ? 'The board runs with its built-in settings. Reset and store, so that old values cannot linger.'
          : 'What both images know was taken over, old values with it; the rest is as built. Reset and store, or look through the report.',
      evidence: [`the board says: store=${store}`],
    },
  ];
}

function measuredLost(facts: Facts, _settings: Settings, { report }: Having<'report'>): Spoken[] {
  const { before, dump } = report;
  return carryOver(before, facts, dump).flatMap(({ dump: value, verdict, proposed, would, because }) => {
    if ((verdict !== 'carry' && verdict !== 'rescale') || proposed === undefined || would?.hidden) return [];
    return [
      {
        subject: aboutSetting(value.key),
        what: `${value.key} was ${value.value} ${value.unit} on the old board, measured; ${String(would?.value)} is about to replace it.`,
        why: `A value that somebody measured would be gone: ${because}.`,
        evidence: [`line ${value.line} of the kept report`, `now: ${String(would?.value)}`],
        remedies: [
          {
            label: `Take ${proposed} over`,
            edits: [measuredEdit(facts, value.key, proposed, because, 'carried')],
          },
        ],
      },
    ];
  });
}

/** A finding for each thing that no longer holds, with why and what to do about it. */
const gone = (
  list: readonly { id: string; title: string; because: string }[],
  what: (title: string) => string,
  then: string,
): Spoken[] =>
  list.map(({ id, title, because }) => ({
    subject: { kind: 'fact', id },
    what: what(title),
    why: then,
    evidence: [because],
  }));

const due = (_facts: Facts, _settings: Settings, record: Having<'due'>) =>
  gone(record.due, (title) => `${title} is due.`, 'What it set may be off until you measure again.');

const proofVoid = (_facts: Facts, _settings: Settings, { voided }: Having<'voided'>) =>
  gone(voided, (title) => `“${title}” is not proven now.`, 'Prove it before you leave the machine alone.');

const drift = ({ kit }: Facts, settings: Settings, { reported }: Having<'reported'>): Spoken[] => {
  const own = foundByBoard(kit);
  return Object.entries(reported).flatMap(([key, value]) => {
    const wanted = settings.get(key)?.value;
    if (own.has(key) || typeof wanted !== 'number' || alike(value, wanted)) return [];
    const option = optionOf(kit, key);
    const [board, file] = [value, wanted].map((each) => settingInWords(option, each));
    return [
      {
        subject: aboutSetting(key),
        what: `“${option?.label ?? key}” is ${board} on the board and ${file} in the machine file.`,
        why: 'Somebody told the board another value, or it stores one. Take it into the machine file, or give the board the file’s: Calibrate, Board against machine file.',
        evidence: [`board: ${board}`, `machine file: ${file}`],
        remedies: [{ label: `Take ${board}`, edits: [overrideEdit(key, value, 'as the board has it')] }],
      },
    ];
  });
};

/** So many are named; the rest is counted. */
const NAMED = 12;
const firstOf = (lines: readonly string[]): string[] => [
  ...lines.slice(0, NAMED),
  ...(lines.length > NAMED ? [`and ${lines.length - NAMED} more`] : []),
];

function otherSettings(
  { kit, machine }: Facts,
  settings: Settings,
  { builtWith }: Having<'builtWith'>,
): Spoken[] {
  const others = builtOtherwise(kit, settings, builtWith);
  if (others.length === 0) return [];
  const lines = others.map(({ setting, built }) => {
    const option = optionOf(kit, setting.key);
    return `${option?.label ?? setting.key}: image ${settingInWords(option, built)}, file ${settingInWords(option, setting.value)}`;
  });
  return [
    {
      subject: { kind: 'machine', id: machine.id },
      what: `The image that runs was built with ${others.length === 1 ? 'another value' : `${others.length} other values`} than the machine file has.`,
      why: 'What moves, heats and guards goes by the image. Build and flash it for the machine file to count.',
      evidence: firstOf(lines),
    },
  ];
}

/** Pins are built in: what was wired otherwise since is not heard and not driven. */
function otherPins(facts: Facts, _settings: Settings, { builtPins }: Having<'builtPins'>): Spoken[] {
  const others = Object.values(pinTable(facts))
    .flat()
    .flatMap(({ name, pin }) => {
      const built = builtPins[name];
      return built === undefined || built === pin
        ? []
        : [`${name}: image ${pinInWords(built)}, file ${pinInWords(pin)}`];
    });
  if (others.length === 0) return [];
  return [
    {
      subject: { kind: 'machine', id: facts.machine.id },
      what: `The image that runs has ${others.length === 1 ? 'a pin' : `${others.length} pins`} elsewhere than the machine file.`,
      why: 'With it a sensor that sits elsewhere is not heard, and a heater or motor not driven. Build and flash before anything moves or heats.',
      evidence: firstOf(others),
    },
  ];
}

const UNKNOWN_IMAGE = {
  nobody: {
    what: 'Nobody knows which image is on the board.',
    why: 'Without it no setting of the board can be trusted. Ask the board, or flash what you built.',
    evidence: ['no flash is recorded, and the board was not asked'],
  },
  foreign: {
    what: 'The board holds no whole image of ours.',
    why: 'With which settings a foreign image runs, or whether a part of one runs at all, nobody here knows. Flash what you built.',
    evidence: ['what was flashed last has no whole header of ours'],
  },
};

const imageUnknown = ({ machine }: Facts, _settings: Settings, { runs }: Having<'runs'>): Spoken[] =>
  runs !== null && runs !== 'foreign'
    ? []
    : [{ subject: { kind: 'machine', id: machine.id }, ...UNKNOWN_IMAGE[runs ?? 'nobody'] }];

const noWayBack = ({ board, catalogue }: Facts, _settings: Settings, { kept }: Having<'kept'>) =>
  wayBackFindings(kept.board ?? board, { kept: kept.things, waived: kept.waived, catalogue }).map(spoken);

/** Checks of what is built, kept, written and heard, beside the machine file. */
export const recordChecks: Check[] = [
  { id: 'motion.measured-lost', severity: 'mend', ...needing(['report'], measuredLost) },
  { id: 'fit.flash-over', severity: 'stop', ...fit('fit.flash-over') },
  { id: 'fit.ram-over', severity: 'stop', ...fit('fit.ram-over') },
  { id: 'fit.brim', severity: 'mend', ...fit('fit.brim') },
  { id: 'image.offset', severity: 'stop', ...needing(['image'], imageOffset) },
  { id: 'image.target', severity: 'stop', ...needing(['image'], imageTarget) },
  { id: 'image.implausible', severity: 'mend', ...needing(['image'], imageImplausible) },
  { id: 'route.no-bootloader', severity: 'stop', ...needing(['bootloader'], noBootloader) },
  { id: 'keep.no-way-back', severity: 'stop', ...needing(['kept'], noWayBack) },
  { id: 'store.layout', severity: 'mend', ...needing(['store'], storeLayout) },
  { id: 'upkeep.proof-void', severity: 'mend', ...needing(['voided'], proofVoid) },
  { id: 'upkeep.drift', severity: 'mend', ...needing(['reported'], drift) },
  { id: 'upkeep.due', severity: 'note', ...needing(['due'], due) },
  { id: 'upkeep.other-settings', severity: 'mend', ...needing(['builtWith'], otherSettings) },
  { id: 'upkeep.other-pins', severity: 'stop', ...needing(['builtPins'], otherPins) },
  { id: 'upkeep.image-unknown', severity: 'note', ...needing(['runs'], imageUnknown) },
];
