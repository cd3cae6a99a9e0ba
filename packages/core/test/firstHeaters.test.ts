import { describe, expect, it } from 'vitest';
import { check } from '../src/checks/checks';
import type { Landing } from '../src/machine/landing';
import type { Machine } from '../src/machine/machine';
import { type Change, changeSchema } from '../src/ripple/change';
import { partBrought } from '../src/ripple/changes';
import { planned } from '../src/ripple/replan';
import { ripple } from '../src/ripple/ripple';
import { withLandings } from '../src/ripple/withLanding';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf, installed } from './fixtures/demo';
import { changes, EVERY_KIND } from './fixtures/job';

const { catalogue } = installed;

/** Plover without these parts and what was known of their values. */
function without(...ids: string[]): Machine {
  const machine = demoMachine('plover');
  return {
    ...machine,
    settings: {},
    parts: machine.parts.filter(({ id }) => !ids.includes(id)),
    harness: Object.fromEntries(Object.entries(machine.harness).filter(([id]) => !ids.includes(id))),
  };
}
const tailOf = (machine: Machine, ...told: Parameters<typeof changes>) =>
  ripple(factsOf(machine), changes(...told));
const titles = (tail: ReturnType<typeof ripple>, kind: string) =>
  tail.consequences.filter((entry) => entry.kind === kind).map(({ title }) => title);

describe('a heater where there was none', () => {
  it('comes with its guard, its lead, and what is to be proven of it', () => {
    const tail = tailOf(
      without('bed-heater', 'bed-sensor'),
      { kind: 'heater', body: 'bed', part: 'bed-24-220' },
      { kind: 'extra-thermistor', role: 'bed', part: 't100-b' },
    );
    expect(tail.contradictions).toEqual([]);
    expect(titles(tail, 'lead')).toEqual(['New lead: bed-heater', 'New lead: bed-sensor']);
    expect(titles(tail, 'proof')).toContain('The bed heats, and nothing else does');
    const after = factsOf(tail.after);
    expect(derive(after).get('guard.bed')?.value).toBe(true);
    expect(check(after, derive(after)).filter(({ severity }) => severity === 'stop')).toEqual([]);
  });
  it('of mains comes with its relay, and never to a terminal of the board', () => {
    const { after } = tailOf(without('bed-heater'), { kind: 'heater', body: 'bed', part: 'bed-230-500', relay: 'sluice-s10' }); // prettier-ignore
    expect(after.harness['bed-heater']).toBeUndefined();
    expect(after.harness['bed-relay']).toBeDefined();
  });
  it('and a whole hot end finds its places', () => {
    const none = without('hotend-heater', 'hotend-sensor');
    const { after, contradictions } = tailOf(none, { kind: 'hot-end', heater: 'cartridge-24-60', thermistor: 't100-b' }); // prettier-ignore
    expect(contradictions).toEqual([]);
    expect(after.harness).toMatchObject({
      'hotend-heater': { leads: { control: 'HEAT-H.2' } },
      'hotend-sensor': { leads: { signal: expect.stringMatching(/^TEMP-H\./) as string } },
    });
  });
  it('one that is replaced keeps its lead where it is', () => {
    const { after } = tailOf(demoMachine('plover'), { kind: 'hot-end', heater: 'cartridge-24-60', thermistor: 't100-b' }); // prettier-ignore
    expect(after.harness).toEqual(demoMachine('plover').harness);
    expect(after.parts.find(({ id }) => id === 'hotend-heater')?.part).toBe('cartridge-24-60');
  });
});

describe('a place that is chosen in a job', () => {
  const before = demoMachine('plover');
  const brought = changes(...EVERY_KIND).flatMap((change): [string, string, Change][] => {
    const part = partBrought(change);
    return part === undefined || change.kind === 'dual-z' ? [] : [[change.kind, part, change]];
  });
  it.each(brought)('%s: %s', (_kind, part, change) => {
    const landing: Landing = { leads: { signal: 'AUX.6', ground: 'AUX.1' } };
    const told = withLandings(before, [change], { [part]: landing });
    for (const each of told) expect(changeSchema().validate(each).error).toBeUndefined();
    expect(planned(before, told, catalogue).harness[part]).toEqual(landing);
  });
});
