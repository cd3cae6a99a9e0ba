import { openPartsInWords } from '../describe/openParts';
import { textSum } from '../bytes/textSum';
import type { ImageHeader } from '../image/imageHeader';
import type { Facts } from '../machine/facts';
import { untripped } from '../proofs/guards';
import type { ProofStep } from '../proofs/proof';
import { type BuiltWith, builtOtherwise } from '../settings/asBuilt';
import type { Settings } from '../settings/setting';
import { csv } from '../text/csv';
import { escapeHtml } from '../text/escapeHtml';

/** What is known of one step. */
export interface ProofRow {
  step: ProofStep;
  /** `voided`: it was tested, and something it rests on is another since. */
  outcome: 'proven' | 'failed' | 'voided' | 'unproven';
  evidence: readonly string[];
  /** When it was tested, as it is read. */
  when: string;
}

/** The settings an image is made of as one number: CRC-32 over `key=value` lines in order of their keys, as 8 hex digits. */
export function settingsSum(settings: Settings): string {
  const lines = [...settings.values()].map(({ key, value }) => `${key}=${value}`).sort();
  return textSum(lines.join('\n'));
}

/** The settings as they are now by their sum, and whether the image in the flash was built with them. */
export function settingsInWords({
  facts,
  settings,
  image,
  builtWith,
}: Omit<ProofSheet, 'rows' | 'date'>): string {
  const now = `settings ${settingsSum(settings)}`;
  if (!image) return now;
  if (!builtWith) return `${now}; those of the image are not on record`;
  const others = builtOtherwise(facts.kit, settings, builtWith).length;
  if (others === 0) return `${now}; the image was built with the same, what the board stores apart`;
  return `${now}; the image was built with ${others} other${others === 1 ? '' : 's'}`;
}

export interface ProofSheet {
  facts: Facts;
  settings: Settings;
  image: ImageHeader | undefined;
  /** The settings the image was built with; missing where nobody knows. */
  builtWith: BuiltWith | undefined;
  rows: readonly ProofRow[];
  date: string;
}

/** Each outcome as it is told. */
export const OUTCOMES: Readonly<Record<ProofRow['outcome'], string>> = {
  proven: 'proven',
  failed: 'not so',
  voided: 'void',
  unproven: 'not tested',
};

/** How the machine as a whole stands, in one or two sentences; what nothing guards is said whatever is proven. */
export function proofSummary({
  facts,
  settings,
  rows,
}: Pick<ProofSheet, 'facts' | 'settings' | 'rows'>): string {
  if (rows.length === 0) return 'Unproven: nothing was asked of it yet.';
  const open = rows.filter(({ outcome }) => outcome !== 'proven');
  const guards = open.filter(({ step }) => step.guards).length;
  const bare = untripped(facts, settings).map(({ called, off }) =>
    off ? `the guard of the ${called} is off` : `no step trips the guard of the ${called}`,
  );
  const alone = [
    ...(guards > 0 ? [`${guards} of its guards ${guards === 1 ? 'was' : 'were'} never seen to trip`] : []),
    ...bare,
  ];
  const unknown = openPartsInWords(facts.machine);
  const told = [
    ...(alone.length > 0 ? [` Never leave it alone: ${alone.join(', ')}.`] : []),
    ...(unknown === undefined ? [] : [` Not known, and so not tested: ${unknown}.`]),
  ].join('');
  if (open.length > 0)
    return `Unproven: ${open.length} of ${rows.length} steps ${open.length === 1 ? 'is' : 'are'} open.${told}`;
  if (bare.length > 0) return `Not guarded, though all ${rows.length} steps are proven.${told}`;
  const tripped = rows.some(({ step }) => step.guards) ? ', its guards made to trip on purpose' : '';
  return `Proven${unknown === undefined ? '' : ' as far as it is described'}: all ${rows.length} steps${tripped}.${told}`;
}

/** The proof sheet as CSV, one row a step. */
export const proofSheetCsv = ({ rows }: ProofSheet): string =>
  csv([
    ['step', 'outcome', 'evidence', 'when'],
    ...rows.map(({ step, outcome, evidence, when }) => [
      step.title,
      OUTCOMES[outcome],
      evidence.join('; '),
      when,
    ]),
  ]);

/** The proof sheet as one HTML page for A4 paper, black on white, nothing fetched. */
export function proofSheetHtml(sheet: ProofSheet): string {
  const { facts, image, rows, date } = sheet;
  const { machine, board, kit } = facts;
  const title = `${machine.name}: proof sheet`;
  const of: [string, string][] = [
    ['Machine', [machine.name, machine.place].filter(Boolean).join(', ')],
    ['Board', `${board.name} rev ${board.revision}`],
    ['Firmware', `${kit.name} ${kit.version}`],
    ['Image in its flash', image ? `${image.name}, build ${image.buildId}, for ${image.target}` : 'not known'],
    ['Settings', settingsInWords(sheet).replace(/^settings /, '')],
    ['Date', date],
  ];
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${escapeHtml(title)}</title><style>${STYLE}</style></head><body>
<h1>${escapeHtml(title)}</h1>
<p><strong>${escapeHtml(proofSummary(sheet))}</strong></p>
<table>${of.map(([name, value]) => `<tr><th>${name}</th><td>${escapeHtml(value)}</td></tr>`).join('')}</table>
<table><thead><tr><th>Step</th><th>Outcome</th><th>Evidence</th><th>When</th></tr></thead><tbody>
${rows.map(rowHtml).join('\n')}
</tbody></table>
<p>Proven on the bench or the machine named above, with this image and this wiring. Another image, part or lead voids what rests on it.</p>
<p class="sign">Seen by</p>
</body></html>
`;
} // prettier-ignore

function rowHtml({ step, outcome, evidence, when }: ProofRow): string {
  const told = evidence.map((line) => escapeHtml(line)).join('<br>');
  return `<tr class="${outcome}"><td>${escapeHtml(step.title)}</td><td><b>${OUTCOMES[outcome]}</b></td><td>${told}</td><td>${escapeHtml(when)}</td></tr>`;
}

const STYLE = `
body{font:10.5pt/1.35 sans-serif;color:#000;background:#fff;margin:12mm}
h1{font-size:17pt;margin:0 0 3mm}
table{border-collapse:collapse;width:100%;margin:4mm 0}
th,td{border:1px solid #000;padding:1.2mm 2mm;text-align:left;vertical-align:top}
tr{break-inside:avoid}
.failed b,.voided b,.unproven b{text-decoration:underline}
.sign{margin-top:14mm;border-top:1px solid #000;width:70mm}
`;
