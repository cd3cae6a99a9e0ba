import { keysOf } from '../tree/keysOf';
import { type Net, parseNet } from '../board/net';
import type { End, LeadEnd } from '../harness/leadWork';
import type { SwapPlan, SwapStep } from '../ripple/swapPlan';
import { csv } from '../text/csv';
import { escapeHtml } from '../text/escapeHtml';

/** `STOP-X: 2 ground, 3 signal`, or `socket M1`. */
export function endInWords(end: End | undefined): string {
  if (!end) return '';
  if ('socket' in end) return `socket ${end.socket}${end.turned ? ', plug turned' : ''}`;
  return end.headers
    .map(({ header, contacts }) => {
      const used = contacts.filter(({ role }) => role);
      return `${header}: ${used.map(({ number, role }) => `${number} ${role}`).join(', ')}`;
    })
    .join('; ');
}

/** The swap sheet as CSV, one row a step in working order. */
export function swapSheetCsv({ steps }: SwapPlan, done: ReadonlySet<string>): string {
  return csv([
    ['number', 'done', 'what', 'from', 'to', 'do', 'caution'],
    ...steps.map((step, index) => [
      `${index + 1}`,
      done.has(step.id) ? 'yes' : '',
      step.title,
      endInWords(step.from),
      endInWords(step.to),
      step.tasks.map(({ what }) => what).join(' '),
      step.cautions.join(' '),
    ]),
  ]);
}

/** Each net its own shape, so that paper needs no colour: ground square, supply diamond, switched triangle, signal round, nothing a cross, not known a question mark. */
export const NET_SHAPES: Record<Net['kind'], (x: number, y: number, r: number) => string> = {
  gnd: (x, y, r) => `M${x - r} ${y - r}h${2 * r}v${2 * r}h${-2 * r}z`,
  supply: (x, y, r) =>
    `M${x} ${y - r * 1.25}l${r * 1.25} ${r * 1.25}l${-r * 1.25} ${r * 1.25}l${-r * 1.25} ${-r * 1.25}z`,
  sw: (x, y, r) => `M${x - r} ${y - r}h${2 * r}l${-r} ${2 * r}z`,
  sig: (x, y, r) => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`,
  none: (x, y, r) => `M${x - r} ${y - r}l${2 * r} ${2 * r}M${x + r} ${y - r}l${-2 * r} ${2 * r}`,
  unknown: (x, y, r) =>
    `M${x - r * 0.6} ${y - r * 0.5}a${r * 0.6} ${r * 0.6} 0 1 1 ${r * 0.6} ${r * 0.6}v${r * 0.4}M${x} ${y + r * 0.85}v${r * 0.2}`,
};

/**
 * The swap sheet as one HTML page for A4 paper, black on white, nothing fetched: big boxes to tick, one row a step,
 * plug and header drawn in the same orientation. Printing it to a file gives a PDF.
 */
export function swapSheetHtml(
  plan: SwapPlan,
  machine: string,
  date: string,
  done: ReadonlySet<string>,
): string {
  const title = plan.swap ? `${machine}: ${plan.from} to ${plan.to}` : `${machine}: wiring on the ${plan.to}`;
  const { budget, headers, drivers, wires, short } = plan.electricity;
  const facts = [
    `Supply: ${budget.peakA.toFixed(1)} A with all on at once, ${Math.round(budget.share * 100)} % of it (${budget.verdict}); most is ${budget.largest}.`,
    ...headers.map(({ header, parts, amps, max_a }) => `${header} feeds ${parts.join(', ')}: ${amps.toFixed(1)} A of ${max_a} A.`),
    ...wires.map(({ part, awg, amps, check }) => `${part}: gauge ${awg}, ${amps.toFixed(1)} A, drop ${check.dropPct.toFixed(1)} % (${check.verdict}).`),
    ...short.map(({ part, length_mm, needed_mm }) => `${part}: ${length_mm} mm is there, ${needed_mm} mm is needed.`),
    ...drivers.map(({ driver, amps, by, volts }) =>
      by === 'line'
        ? `${driver}: ${amps.toFixed(2)} A, told over its line.`
        : by === 'untold'
        ? `${driver}: ${amps.toFixed(2)} A would suit; this version of the firmware does not tell it, so it keeps its own.`
        : `${driver}: ${amps.toFixed(2)} A, ${volts === undefined ? 'sense resistor unknown: read it off at the driver' : `${volts.toFixed(2)} V at the pot`}.`,
    ),
  ]; // prettier-ignore
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${escapeHtml(title)}</title><style>${STYLE}</style></head><body>
<h1>${escapeHtml(title)}</h1>
<p>${escapeHtml(date)}. Unplugged, and left unplugged until the staged first power at Bring-up. Tick a box when the row is done.</p>
<p class="key">${keysOf(NET_WORDS)
    .filter((kind) => !RARE.has(kind) || netsOn(plan).has(kind))
    .map((kind) => `<svg viewBox="0 0 10 10">${shape(kind, 5, 5, 3.2)}</svg> ${NET_WORDS[kind]}`)
    .join(' &nbsp; ')}</p>
<table><thead><tr><th>Done</th><th>What</th><th>From</th><th>To</th><th>Do</th></tr></thead><tbody>
${plan.steps.map((step, index) => row(step, index + 1, done.has(step.id))).join('\n')}
</tbody></table>
${plan.untouched.length > 0 ? `<p>Stay as they are: ${escapeHtml(plan.untouched.join(', '))}.</p>` : ''}
<h2>Electricity</h2><ul>${facts.map((fact) => `<li>${escapeHtml(fact)}</li>`).join('')}</ul>
</body></html>
`;
}

const NET_WORDS: Record<Net['kind'], string> = {
  gnd: 'ground',
  supply: 'supply',
  sw: 'switched output',
  sig: 'signal',
  none: 'nothing',
  unknown: 'not known yet',
};

/** Explained only on a sheet that shows them. */
const RARE: ReadonlySet<Net['kind']> = new Set(['none', 'unknown']);
const netsOn = ({ steps }: SwapPlan): Set<Net['kind']> =>
  new Set(
    steps
      .flatMap(({ from, to }) => [from, to])
      .flatMap((end) => (end && 'headers' in end ? end.headers : []))
      .flatMap(({ contacts }) => contacts.map(({ net }) => parseNet(net).kind)),
  );

const STYLE = `@page{size:A4;margin:12mm}body{font:10pt/1.35 sans-serif;color:#000;background:#fff;margin:0 auto;max-width:190mm}
h1{font-size:15pt;margin:0 0 2mm}h2{font-size:12pt;margin:5mm 0 1mm}table{border-collapse:collapse;width:100%}
th{text-align:left;font-size:8.5pt;border-bottom:1.2pt solid #000;padding:1mm}td{vertical-align:top;border-bottom:.4pt solid #000;padding:1.6mm 1mm}
tr{break-inside:avoid}thead{display:table-header-group}.box{width:7mm;height:7mm;border:1.2pt solid #000;font:bold 14pt/6.4mm sans-serif;text-align:center}
td svg{display:block;width:37mm}.key svg{width:3.6mm;vertical-align:-.6mm}.caution{font-weight:bold;border-left:2.4pt solid #000;padding-left:1.6mm;margin:1mm 0 0}
p{margin:1mm 0}td p{margin:0 0 .6mm}.what{width:34mm}.end{width:38mm;font-size:8.5pt}ul{margin:0;padding-left:5mm}`;

function row(step: SwapStep, number: number, done: boolean): string {
  return `<tr><td><div class="box">${done ? '×' : ''}</div></td><td class="what"><b>${number}.</b> ${escapeHtml(step.title)}</td>
<td class="end">${end(step.from)}</td><td class="end">${end(step.to)}</td>
<td>${step.tasks.map(({ what }) => `<p>${escapeHtml(what)}</p>`).join('')}${step.cautions.map((caution) => `<p class="caution">${escapeHtml(caution)}</p>`).join('')}</td></tr>`;
}

function end(where: End | undefined): string {
  if (!where) return '';
  const drawing = 'headers' in where ? where.headers.map(drawn).join('') : '';
  return `${drawing}${escapeHtml(endInWords(where))}`;
}

/** A drawing's width on paper, in mm and in its own units: at 7 pt a word is still read at arm's length from the board. */
const WIDTH_MM = 37;
const PER_ROW = 4;
const [STEP, ROW_HEIGHT] = [20, 29];
const WIDTH = PER_ROW * STEP + 4;
const PT_PER_UNIT = (WIDTH_MM * 72) / 25.4 / WIDTH;
const LETTERS = Math.ceil(70 / PT_PER_UNIT) / 10;

/** Contact 1 on the left, as the header is read with its name upright; filled shapes carry a lead. Long headers go on below. */
function drawn({ contacts }: LeadEnd): string {
  const rows = Array.from({ length: Math.ceil(contacts.length / PER_ROW) }, (_, row) =>
    contacts.slice(row * PER_ROW, (row + 1) * PER_ROW),
  );
  const cells = rows.flatMap((row, nth) => [
    `<rect x="2" y="${nth * ROW_HEIGHT + 7.4}" width="${row.length * STEP}" height="11.4" fill="none" stroke="#000"/>`,
    ...row.map(({ number, net, role }, index) => {
      const [x, top] = [2 + STEP / 2 + index * STEP, nth * ROW_HEIGHT];
      const text = (y: number, words: string) =>
        `<text x="${x}" y="${top + y}" font-size="${LETTERS}" text-anchor="middle">${escapeHtml(words)}</text>`;
      return `${shape(parseNet(net).kind, x, top + 13, 3.6, role !== undefined)}${text(6, `${number}`)}${text(25.5, role ?? '')}`;
    }),
  ]);
  return `<svg viewBox="0 0 ${WIDTH} ${rows.length * ROW_HEIGHT}">${cells.join('')}</svg>`;
}

const shape = (kind: Net['kind'], x: number, y: number, r: number, filled = false) =>
  `<path d="${NET_SHAPES[kind](x, y, r)}" fill="${filled ? '#000' : '#fff'}" stroke="#000" stroke-width=".8"/>`;
