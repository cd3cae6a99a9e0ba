import { find, indexOf } from '@jolly/core/find/find';
import { write } from '@jolly/core/build/write';
import { derive } from '@jolly/core/settings/derive';
import { PARTS } from '@jolly/session/machineParts';
import { STATIONS, SURVEY_STEPS } from '@jolly/session/progress';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { type Acts, findables } from '../src/app/palette/findables';

const machines = ['plover', 'bittern', 'dunlin'];
const pressed: string[] = [];
const ACTS = Object.fromEntries(
  ['powerOn', 'powerOff', 'undo', 'redo', 'tape', 'stop', 'help'].map((name) => [
    name,
    () => void pressed.push(name),
  ]),
) as unknown as Acts;

/** All that can be found for a demo machine. */
function all(id: string, deeds: { undoes?: string; redoes?: string } = {}) {
  const machine = demoMachine(id);
  const facts = factsOf(machine);
  const settings = derive(facts);
  return findables(
    { machine, kit: facts.kit, facts, settings: new Map(settings), files: write(facts, settings), ...deeds },
    ACTS,
  );
}
/** What stands first when a question is asked of Plover. */
function best(question: string, id = 'plover') {
  const items = all(id);
  const index = indexOf(items.map(({ id, title, hint, words }) => ({ id, title, hint, ...words })));
  const [first] = find(index, question, 1);
  return items.find((item) => item.id === first?.id);
}

describe('what can be found', () => {
  it.each(machines)('on %s: each once, and nothing says undefined', (id) => {
    const items = all(id);
    expect(items.length).toBeGreaterThan(150);
    expect(new Set(items.map((item) => item.id)).size).toBe(items.length);
    for (const { title, hint, id: called } of items)
      expect(`${called}: ${title} ${hint}`).not.toMatch(/undefined|NaN|\[object/);
  });

  it.each(machines)('on %s: it leads to a place that there is', (id) => {
    const stations = new Set<string>(STATIONS.map((station) => station.id));
    const steps = new Set<string | null>([...SURVEY_STEPS.map((step) => step.id), 'tail']);
    const parts = new Set<string | null>(PARTS.map((part) => part.id));
    for (const { id: called, to } of all(id)) {
      if (typeof to !== 'string' || to === '/') continue;
      const url = new URL(to, 'http://here');
      const [, kind, machine, station = ''] = url.pathname.split('/');
      expect([kind, machine, stations.has(station)], called).toEqual(['machines', id, true]);
      if (station === 'survey' && url.searchParams.has('at'))
        expect(steps.has(url.searchParams.get('at')), called).toBe(true);
      if (url.searchParams.has('part')) expect(parts.has(url.searchParams.get('part')), called).toBe(true);
    }
  });

  it('a setting gets the focus on its own row, at a part that shows it', () => {
    for (const item of all('plover').filter(({ kind }) => kind === 'Setting')) {
      const key = new URL(String(item.to), 'http://here').searchParams.get('key');
      expect(item.find).toBe(`set-${key}`);
    }
  });

  it.each([
    ['24v', 'fact-supply'],
    ['m503', 'say-M503'],
    ['flash', 'st-flash'],
    ['switch the power on', 'act-power-on'],
  ])('“%s” finds %s first', (question, id) => {
    expect(best(question)?.id).toBe(id);
  });

  it('what is not in this version of the kit is said not to be in it', () => {
    const items = all('plover');
    const { kit } = factsOf(demoMachine('plover'));
    for (const option of kit.options) {
      const item = items.find(({ id }) => id === `set-${option.key.replaceAll('.', '-')}`);
      expect(item?.hint.startsWith(`not in ${kit.name} ${kit.version}`)).toBe(option.from !== undefined);
    }
  });
});

describe('undo among what can be found', () => {
  const acts = (deeds: { undoes?: string; redoes?: string }) =>
    all('plover', deeds)
      .filter(({ kind }) => kind === 'Action')
      .map(({ title }) => title);
  it('is named by what it takes back', () => {
    const titles = acts({ undoes: 'Plate size', redoes: 'The bay' });
    expect(titles).toContain('Undo: Plate size');
    expect(titles).toContain('Do again: The bay');
  });
  it('is not there where there is nothing to take back', () => {
    const titles = acts({});
    expect(titles.some((title) => /^(undo|do again|do the change)/i.test(title))).toBe(false);
    expect(titles).toContain('Stop the machine');
  });
  it('does what its key does, and nothing else', () => {
    pressed.length = 0;
    const undo = all('plover', { undoes: 'Plate size' }).find(({ title }) => title === 'Undo: Plate size');
    (undo?.to as () => void)();
    expect(pressed).toEqual(['undo']);
  });
});
