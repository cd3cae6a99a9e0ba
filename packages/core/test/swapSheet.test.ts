import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { csv } from '../src/text/csv';
import { endInWords, swapSheetCsv, swapSheetHtml } from '../src/formats/swapSheet';
import { planned } from '../src/ripple/replan';
import { ripple } from '../src/ripple/ripple';
import { swapPlan } from '../src/ripple/swapPlan';
import { factsOf, installed } from './fixtures/demo';
import { ploverJob } from './fixtures/job';

const job = ploverJob();
const before = factsOf(job.before);
const after = factsOf(planned(job.before, job.changes, installed.catalogue));
const plan = swapPlan(before, after, ripple(before, job.changes).consequences);

/** A reader of RFC 4180, as a table program has one. */
function readCsv(text: string): string[][] {
  const rows: string[][] = [[]];
  for (const [, quoted, plain, end] of text.matchAll(/(?:"((?:[^"]|"")*)"|([^",\r\n]*))(,|\r\n)/g)) {
    rows.at(-1)!.push(quoted?.replaceAll('""', '"') ?? plain ?? '');
    if (end === '\r\n') rows.push([]);
  }
  return rows.slice(0, -1);
}

/** What a table program would run: everything that begins so and is no number. */
const isFormula = (field: string) => /^\s*[=+@-]/.test(field) && !/^\s*-[\d.]+$/.test(field);

describe('CSV', () => {
  it('whatever stands in a field is read back, and no field begins like a formula', () => {
    const rows = fc.array(fc.array(fc.string(), { minLength: 1, maxLength: 4 }), {
      minLength: 1,
      maxLength: 4,
    });
    fc.assert(
      fc.property(rows, (list) => {
        const back = readCsv(csv(list));
        return list.every((row, r) =>
          row.every((field, f) => [field, `'${field}`].includes(back[r]![f]!) && !isFormula(back[r]![f]!)),
        );
      }),
    );
  });
});

describe('the swap sheet', () => {
  it('as CSV has a row for each step, in order, and says what is done', () => {
    const rows = readCsv(swapSheetCsv(plan, new Set([plan.steps[2]!.id])));
    expect(rows.slice(1).map((row) => row[2])).toEqual(plan.steps.map(({ title }) => title));
    expect(rows.slice(1).map((row) => row[1] === 'yes')).toEqual(
      plan.steps.map((_step, index) => index === 2),
    );
    expect(new Set(rows.map((row) => row.length))).toEqual(new Set([7]));
  });
  it('as a page fetches nothing, runs nothing, and has a box and both ends for every lead', () => {
    const html = swapSheetHtml(plan, 'Plover', '1 May 2026', new Set());
    expect(html.match(/class="box"/g)).toHaveLength(plan.steps.length);
    expect(html).not.toMatch(/<script|src=|href=|url\(/);
    for (const { from, to } of plan.steps)
      for (const end of [from, to]) expect(html).toContain(endInWords(end));
    expect(html).toContain('@page{size:A4');
    expect(html).toContain('78 % of it (fine); most is bed-heater');
  });
  it('words at contacts are 7 pt at least, however long the header, and none stands over another', () => {
    const html = swapSheetHtml(plan, 'Plover', '1 May 2026', new Set());
    const drawings = [...html.matchAll(/<svg viewBox="0 0 (\d+) (\d+)">(<rect.*?)<\/svg>/g)];
    expect(drawings.length).toBeGreaterThan(10);
    for (const [, width, height, content = ''] of drawings) {
      const ptPerUnit = ((37 / 25.4) * 72) / Number(width);
      const words = [...content.matchAll(/<text x="([\d.]+)" y="([\d.]+)" font-size="([\d.]+)"/g)].map(
        (found) => found.slice(1).map(Number),
      );
      for (const [x = 0, y = 0, size = 0] of words) {
        expect(size * ptPerUnit).toBeGreaterThanOrEqual(7);
        expect([x < Number(width), y < Number(height), y - size >= 0]).toEqual([true, true, true]);
      }
      expect(new Set(words.map(([x, y]) => `${x} ${y}`)).size).toBe(words.length);
    }
  });
  it('a name cannot become part of the page', () => {
    const html = swapSheetHtml(plan, '<img onerror="x">&', '1 May 2026', new Set());
    expect(html).not.toContain('<img');
    expect(html).toContain('&lt;img onerror=&quot;x&quot;&gt;&amp;');
  });
});
