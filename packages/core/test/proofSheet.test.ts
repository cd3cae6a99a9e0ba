import { describe, expect, it } from 'vitest';
import {
  proofSheetCsv,
  proofSheetHtml,
  proofSummary,
  type ProofRow,
  settingsInWords,
  settingsSum,
} from '../src/formats/proofSheet';
import { applyEdits, type Edit } from '../src/machine/edit';
import { proofSteps } from '../src/proofs/proofs';
import type { ImageHeader } from '../src/image/imageHeader';
import type { BuiltWith } from '../src/settings/asBuilt';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf, own } from './fixtures/demo';

/** A demo machine, changed, with a row for each of its steps. */
function sheetOf(outcomeOf: (id: string) => ProofRow['outcome'], ...edits: Edit[]) {
  const facts = factsOf(applyEdits(demoMachine('plover'), edits));
  const settings = derive(facts);
  const rows = proofSteps(facts, settings).map((step): ProofRow => ({
    step,
    outcome: outcomeOf(step.id),
    evidence: [`saw <${step.id}>`],
    when: 'today',
  }));
  return { facts, settings, rows, image: undefined, builtWith: undefined, date: '28/11/2026' };
}
const proven = () => 'proven' as const;
const said = (...of: Parameters<typeof sheetOf>) => proofSummary(sheetOf(...of));

describe('the sentence over a proof sheet', () => {
  it('is “proven” only when every step is and every heater is guarded', () => {
    expect(said(proven)).toMatch(/^Proven: all \d+ steps, its guards made to trip on purpose\.$/);
  });

  it.each([
    ['guard.bed', 'the guard of the bed is off'],
    ['guard.hotend', 'the guard of the hot end is off'],
  ])('with %s off it never is, whatever was proven', (key, why) => {
    const sentence = said(proven, own(key, false));
    expect(sentence).toMatch(/^Not guarded, though all \d+ steps are proven\. Never leave it alone: /);
    expect(sentence).toContain(why);
    expect(sentence).not.toContain('on purpose');
  });

  it('names both heaters when neither is guarded', () => {
    const sentence = said(proven, own('guard.bed', false), own('guard.hotend', false));
    expect(sentence).toContain('the guard of the hot end is off, the guard of the bed is off');
  });

  it('a second hot end has a guard of its own, and here no step that trips it', () => {
    const { parts } = demoMachine('plover');
    const second: Edit[] = [
      { path: ['parts', parts.length], value: { id: 'second-heater', part: 'cartridge-24-40', role: 'hotend-2' } },
      { path: ['parts', parts.length + 1], value: { id: 'second-sensor', part: 't100-a', role: 'hotend-2' } },
    ]; // prettier-ignore
    expect(said(proven, ...second)).toContain('no step trips the guard of the second hot end');
    expect(said(proven, ...second, own('guard.second-hotend', false))).toContain('the guard of the second hot end is off'); // prettier-ignore
  });

  it('counts what is open, and says which guards nobody saw trip', () => {
    const total = sheetOf(proven).rows.length;
    expect(said((id) => (id === 'home' ? 'failed' : 'proven'))).toBe(`Unproven: 1 of ${total} steps is open.`); // prettier-ignore
    expect(said((id) => (id === 'guard-bed' ? 'unproven' : 'proven'))).toBe(
      `Unproven: 1 of ${total} steps is open. Never leave it alone: 1 of its guards was never seen to trip.`,
    );
    expect(said((id) => (id.startsWith('guard-') ? 'failed' : 'proven'))).toMatch(
      /Never leave it alone: 4 of its guards were never seen to trip\.$/,
    );
  });

  it('of nothing is nothing proven', () => {
    expect(proofSummary({ ...sheetOf(proven), rows: [] })).toBe('Unproven: nothing was asked of it yet.');
  });
});

describe('the sheet', () => {
  it('as a page says the same sentence, whose flash nobody read, and takes no text for markup', () => {
    const page = proofSheetHtml(sheetOf(proven, own('guard.bed', false)));
    expect(page).toContain('Not guarded, though all');
    expect(page).toContain('Image in its flash</th><td>not known');
    expect(page).not.toMatch(/saw <[a-z]/);
    expect(page).toContain('saw &lt;home&gt;');
  });
  it('as a table has a row for each step, with its outcome in words', () => {
    const sheet = sheetOf((id) => (id === 'home' ? 'failed' : 'unproven'));
    const lines = proofSheetCsv(sheet).trim().split(/\r?\n/);
    expect(lines).toHaveLength(sheet.rows.length + 1);
    expect(lines.filter((line) => line.includes('not so'))).toHaveLength(1);
    expect(lines.filter((line) => line.includes('not tested'))).toHaveLength(sheet.rows.length - 1);
  });
  it('says whether the image was built with the settings as they are', () => {
    const sheet = sheetOf(proven, own('guard.bed', false));
    const built = (...edits: Edit[]) =>
      Object.fromEntries([...sheetOf(proven, ...edits).settings].map(([key, { value }]) => [key, value]));
    const image = { name: 'Plover', buildId: '1234abcd', target: 'x' } as ImageHeader;
    const of = (builtWith?: BuiltWith) => settingsInWords({ ...sheet, image, builtWith });
    expect(of()).toMatch(/; those of the image are not on record$/);
    expect(of(built(own('guard.bed', false)))).toMatch(/; the image was built with the same, what the board stores apart$/); // prettier-ignore
    expect(of(built())).toMatch(/; the image was built with 1 other$/);
    expect(settingsInWords(sheet)).toBe(`settings ${settingsSum(sheet.settings)}`);
  });
  it('a step that is void is open, and says so', () => {
    const sheet = sheetOf((id) => (id === 'home' ? 'voided' : 'proven'));
    expect(proofSummary(sheet)).toBe(`Unproven: 1 of ${sheet.rows.length} steps is open.`);
    expect(proofSheetCsv(sheet)).toContain(',void,');
  });
  it('sums settings by their values, in whatever order they stand', () => {
    const { settings } = sheetOf(proven);
    const turned = new Map([...settings].reverse());
    expect(settingsSum(turned)).toBe(settingsSum(settings));
    expect(settingsSum(settings)).toMatch(/^[0-9a-f]{8}$/);
    expect(settingsSum(sheetOf(proven, own('guard.bed', false)).settings)).not.toBe(settingsSum(settings));
  });
});
