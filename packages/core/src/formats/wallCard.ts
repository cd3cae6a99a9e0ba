import { escapeHtml } from '../text/escapeHtml';

/** What hangs on the wall beside a machine. */
export interface WallCard {
  name: string;
  place: string;
  /** Words with their value, in the order they are read. */
  facts: readonly (readonly [what: string, value: string])[];
  measured: readonly (readonly [what: string, value: string, when: string])[];
  due: readonly string[];
  cautions: readonly string[];
  date: string;
}

const rows = (lines: readonly (readonly string[])[]): string =>
  lines
    .map(
      ([what = '', ...cells]) =>
        `<tr><th scope="row">${escapeHtml(what)}</th>${cells.map((cell) => `<td>${escapeHtml(cell)}</td>`).join('')}</tr>`,
    )
    .join('');
const list = (lines: readonly string[]): string =>
  lines.map((line) => `<li>${escapeHtml(line)}</li>`).join('');

const STYLE = `@page{size:A5 landscape;margin:10mm}body{font:10pt/1.35 sans-serif;margin:0;color:#111}h1{font-size:26pt;margin:0}
h2{font-size:11pt;margin:4mm 0 1mm;border-bottom:1px solid #111}table{border-collapse:collapse;width:100%}
th{text-align:left;font-weight:400;padding:.4mm 3mm .4mm 0;vertical-align:top}td{font-weight:700;padding:.4mm 3mm .4mm 0}
ul{margin:0;padding-left:5mm}.two{display:grid;grid-template-columns:1fr 1fr;gap:8mm}footer{margin-top:4mm;font-size:8pt}`;

/** The card of a machine for the workshop's wall, one sheet of A5. */
export function wallCardHtml({ name, place, facts, measured, due, cautions, date }: WallCard): string {
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>${escapeHtml(name)}</title><style>${STYLE}</style>
<h1>${escapeHtml(name)}</h1><p>${escapeHtml(place)}</p><div class="two"><section><h2>What it is</h2><table>${rows(facts)}</table>
${cautions.length > 0 ? `<h2>Take care</h2><ul>${list(cautions)}</ul>` : ''}</section><section><h2>Measured</h2>
${measured.length > 0 ? `<table>${rows(measured)}</table>` : '<p>Nothing is on record.</p>'}
<h2>Due</h2>${due.length > 0 ? `<ul>${list(due)}</ul>` : `<p>Nothing that was ever measured was due on ${escapeHtml(date)}.</p>`}</section></div>
<footer>As on record on ${escapeHtml(date)}. Ask the record, not the card, after that.</footer></html>`;
}
