import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { calibrationsOf } from '../src/calibration/calibrations';
import { calibrationTitles, calibrationTools } from '../src/calibration/calibrationTools';
import { feelOf, strandsOf } from '../src/calibration/feel';
import { ENOUGH_MM, gridsEnough } from '../src/calibration/gridsEnough';
import { leftAside, settingOfFigure } from '../src/calibration/leftAside';
import { isPattern } from '../src/calibration/patternTools';
import { heightsOf } from '../src/calibration/mapTool';
import { turnInWords } from '../src/calibration/tramTool';
import type { Measured } from '../src/calibration/measured';
import { measuredWith, upkeepOf } from '../src/calibration/upkeep';
import { heldBack } from '../src/fleet/policy';
import { mapAsCsv, mapDifference, readMapCsv, turnedAbout } from '../src/formats/mapCsv';
import { recordAsMarkdown } from '../src/formats/recordSheet';
import { wallCardHtml } from '../src/formats/wallCard';
import { applyEdits } from '../src/machine/edit';
import type { Facts } from '../src/machine/facts';
import { missOf } from '../src/plate/coarserMap';
import { derive } from '../src/settings/derive';
import { measuredEdit } from '../src/settings/measuredEdit';
import { numberOf } from '../src/settings/setting';
import { lineDifferences } from '../src/slicer/lineDifferences';
import { demoMachine, factsOf, own } from './fixtures/demo';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 10, 27);

const plover = factsOf(demoMachine('plover'));
const changed = (path: string[], value: unknown): Facts =>
  factsOf(applyEdits(plover.machine, [{ path, value }]));

describe('what is due', () => {
  const at = (id: string, daysAgo: number, outcome: Measured['outcome'] = 'found'): Measured => ({
    calibration: id,
    outcome,
    atMs: NOW - daysAgo * DAY,
    with: measuredWith(plover, id),
  });
  const standing = (facts: Facts, measured: Measured[], left: { id: string; because: string; sinceMs: number }[] = []) =>
    Object.fromEntries(upkeepOf(facts, derive(facts), { measured, left, nowMs: NOW }).map((one) => [one.id, one])); // prettier-ignore

  it('is not known before anything is on record, and never called nothing', () => {
    for (const one of upkeepOf(plover, derive(plover), { measured: [], left: [], nowMs: NOW })) {
      expect(one.state).toBe('not known');
      expect(one.because).toMatch(/on record/);
    }
  });

  it.each([
    ['z-offset', 89, 'not due'],
    ['z-offset', 90, 'due'],
    ['tram', 179, 'not due'],
    ['tram', 180, 'due'],
    ['pid-hotend', 2000, 'not due'],
  ] as const)('%s, %i days old: %s', (id, days, state) => {
    expect(standing(plover, [at(id, days)])[id]?.state).toBe(state);
  });

  it('says of what is not due after what it need not be measured', () => {
    expect(standing(plover, [at('z-offset', 3)])['z-offset']?.because).toMatch(/Not due after new filament, belts/); // prettier-ignore
  });

  it('falls due with a fact it was measured with, and not with another', () => {
    const moved = changed(['probe_mount', 'side_mm'], 44);
    const measured = [at('z-offset', 3), at('pid-hotend', 3), at('extruder-steps', 3)];
    const found = standing(moved, measured);
    expect(found['z-offset']?.state).toBe('due');
    expect(found['z-offset']?.because).toMatch(/mount of the probe/);
    expect(found['pid-hotend']?.state).toBe('not due');
    expect(found['extruder-steps']?.state).toBe('not due');
    // What was measured of the mount since is not another mount.
    expect(standing(changed(['probe_mount', 'z_mm'], -1.9), measured)['z-offset']?.state).toBe('not due');
  });

  describe('what was measured and is not in the machine file', () => {
    const figure = (id: string, value: number, unit = 'mm') => ({ id, label: id, value, unit });
    const shim = (value: number, daysAgo = 3): Measured => ({ ...at('z-offset', daysAgo), figures: [figure('offset-z', value)] }); // prettier-ignore
    const has = numberOf(derive(plover), 'probe.offset.z');

    it('is due with both values, until it is taken over', () => {
      const measured = [shim(has - 0.07)];
      const due = standing(plover, measured)['z-offset'];
      expect(due).toMatchObject({
        state: 'due',
        aside: [{ key: 'probe.offset.z', measured: has - 0.07, has }],
      });
      expect(due?.because).toContain(`where the machine file has ${String(has).replace('-', '−')} mm`);
      const edit = measuredEdit(plover, 'probe.offset.z', has - 0.07, 'measured');
      const taken = factsOf(applyEdits(plover.machine, [edit]));
      expect(standing(taken, measured)['z-offset']).toMatchObject({ state: 'not due' });
    });

    it('is neither what differs by rounding, nor what a newer tool found, nor what somebody did another way', () => {
      expect(standing(plover, [shim(has + 0.0004)])['z-offset']?.state).toBe('not due');
      const nudged = { ...at('first-layer', 1), figures: [figure('offset-z', has)] };
      expect(standing(plover, [shim(has - 0.07), nudged])['z-offset']?.state).toBe('not due');
      expect(standing(plover, [shim(has - 0.07), at('z-offset', 1, 'done')])['z-offset']?.state).toBe(
        'not due',
      );
    });

    it('a value measured with other facts, or poor, is measured anew and not taken', () => {
      const moved = changed(['probe_mount', 'side_mm'], 44);
      expect(standing(moved, [shim(has - 0.07)])['z-offset']?.aside).toBeUndefined();
      const poor = { ...shim(has - 0.07), outcome: 'poor' as const };
      expect(standing(plover, [poor])['z-offset']?.aside).toBeUndefined();
    });

    it.each([
      ['offset-x', 'probe.offset.x'],
      ['steps-e', 'steps.e'],
      ['current-z', 'current.z'],
      ['d-hotend', 'pid.hotend.d'],
      ['lead', 'lead.time'],
      ['nudge-start', 'nudge.start'],
      ['nudge', undefined],
      ['corner-deviation', 'corner.deviation'],
      ['corner-jolt-y', 'corner.jolt.y'],
      ['corner', undefined],
      ['over-hotend', undefined],
      ['spread', undefined],
    ])('the figure %s is the value of %s', (id, key) => {
      expect(settingOfFigure(id)).toBe(key);
      if (key !== undefined) expect(plover.kit.options.map((option) => option.key)).toContain(key);
    });

    it('of what never falls due is told while it counts, with where it stands; and no more once somebody did it', () => {
      const withLead = changed(['settings', 'lead.on'], own('lead.on', true).value);
      const measured = (value: number) => ({ ...at('lead', 3), figures: [{ id: 'lead', label: 'Extrusion lead', value, unit: 's' }] }); // prettier-ignore
      expect(standing(withLead, [measured(0.09)])['lead']).toMatchObject({
        state: 'due',
        title: 'Extrusion lead',
        because: 'Measured 3 days ago: Extrusion lead 0.09 s, where the machine file has 0.05 s. Take it over, or measure again.',
        aside: [{ key: 'lead.time', measured: 0.09, has: 0.05 }],
      }); // prettier-ignore
      expect(standing(withLead, [measured(0.05)])['lead']).toBeUndefined();
      expect(standing(withLead, [measured(0.09), at('lead', 1, 'done')])['lead']).toBeUndefined();
      expect(standing(changed(['settings', 'lead.on'], own('lead.on', false).value), [measured(0.09)])['lead']).toBeUndefined(); // prettier-ignore
    });

    it('a nudge that is to keep the first layer is told, until the offset beside it is measured anew', () => {
      const nudging = changed(['settings', 'nudge.on'], own('nudge.on', true).value);
      const nudged: Measured = { ...at('first-layer', 3), figures: [figure('nudge-start', -0.04)] };
      expect(standing(nudging, [nudged])['first-layer']).toMatchObject({
        state: 'due',
        aside: [{ key: 'nudge.start', measured: -0.04, has: 0 }],
      });
      expect(standing(nudging, [nudged, shim(has, 5)])['first-layer']?.aside).toHaveLength(1);
      expect(standing(nudging, [nudged, shim(has, 1)])['first-layer']?.aside).toBeUndefined();
      const off = changed(['settings', 'nudge.on'], own('nudge.on', false).value);
      expect(standing(off, [nudged])['first-layer']?.aside).toBeUndefined();
    });

    it('a value counts as the same only within rounding', () => {
      fc.assert(
        fc.property(fc.double({ min: -5, max: -0.2, noNaN: true }), (value) => {
          const aside = leftAside(derive(plover), [shim(value)]);
          expect(aside.length === 0).toBe(Math.abs(value - has) <= 0.001 * Math.max(1, Math.abs(has)));
        }),
      );
    });
  });

  it('a poor outcome leaves it due; a newer one settles it, and what a job left', () => {
    expect(standing(plover, [at('z-offset', 1, 'poor')])['z-offset']?.state).toBe('due');
    expect(standing(plover, [at('z-offset', 2, 'poor'), at('z-offset', 1)])['z-offset']?.state).toBe(
      'not due',
    );
    const left = [{ id: 'z-offset', because: 'the nozzle was changed', sinceMs: NOW - 5 * DAY }];
    expect(standing(plover, [at('z-offset', 9)], left)['z-offset']).toMatchObject({
      state: 'due',
      because: 'the nozzle was changed',
    });
    expect(standing(plover, [at('z-offset', 1, 'done')], left)['z-offset']?.state).toBe('not due');
  });

  it('every tool has its title on record, and every calibration that is measured by a tool its tool', () => {
    const titles = calibrationTitles(plover);
    const tools = calibrationTools(plover, derive(plover));
    for (const { id } of tools) expect(titles.has(id)).toBe(true);
    const ids = new Set(tools.map(({ id }) => id));
    for (const { id } of calibrationsOf(plover)) expect(ids.has(id), id).toBe(true);
  });
});

describe('what hands feel and strands show', () => {
  it('goes from free over drags to held as the gap closes, and never back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -0.5, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0.02, max: 1, noNaN: true }),
        (gap, more, shim) => {
          const order = ['holds', 'drags', 'free'];
          expect(order.indexOf(feelOf(gap + more, shim))).toBeGreaterThanOrEqual(
            order.indexOf(feelOf(gap, shim)),
          );
        },
      ),
    );
    expect([0.25, 0.2, 0.15, 0.05].map((gap) => strandsOf(gap, 0.2))).toEqual(['apart', 'merge', 'ridges', 'scraped']); // prettier-ignore
  });

  it('turns are said in eighths', () => {
    const turn = (turns: number) =>
      turnInWords({ id: 'back', mm: turns * 0.7, turns, move: 'raise', rotate: 'clockwise' });
    expect(turn(0.25)).toContain('clockwise by ¼ turn');
    expect(turn(1)).toContain('by 1 turn ');
    expect(turn(1.5)).toContain('by 1 ½ turn');
    expect(turn(0.02)).toContain('a hair');
  });
});

describe('maps', () => {
  const xs = [20, 70, 120, 170, 220];
  const ys = [10, 60, 110, 160, 200];
  const map = {
    xs,
    ys,
    z: ys.map((y) => xs.map((x) => Number((0.001 * x + 0.00001 * (y - 90) ** 2).toFixed(4)))),
  };

  it('the first grid that is enough misses no point by more than it may', () => {
    const grids = gridsEnough(derive(plover), map);
    const enough = grids.filter((grid) => grid.enough);
    expect(enough).toHaveLength(1);
    expect(enough[0]?.worst).toBeLessThan(ENOUGH_MM);
    for (const grid of grids.slice(0, grids.indexOf(enough[0]!)))
      expect(grid.worst).toBeGreaterThanOrEqual(ENOUGH_MM);
    expect(grids.at(-1)).toMatchObject({ columns: 5, rows: 5, worst: 0 });
    expect([...grids].sort((one, other) => one.seconds - other.seconds)).toEqual(grids);
  });

  it('goes out as CSV and comes back the same, whatever parts its cells', () => {
    const csv = mapAsCsv(map);
    expect(readMapCsv(csv)).toEqual({ map });
    expect(readMapCsv(csv.replaceAll(',', '\t'))).toEqual({ map });
    expect(readMapCsv(csv.replaceAll(',', ';').replaceAll('.', ','))).toEqual({ map });
  });

  it('says which cell of a map with holes, words, or lines that fall', () => {
    expect(readMapCsv('y,1,2\n10,0.1,\n20,0,0')).toEqual({ problem: expect.stringMatching(/row 2, column 3.*no holes/) as string }); // prettier-ignore
    expect(readMapCsv('y,1,2\n10,0.1,high\n20,0,0')).toEqual({ problem: expect.stringMatching(/“high”/) as string }); // prettier-ignore
    expect(readMapCsv('y,2,1\n10,0.1,0\n20,0,0')).toEqual({ problem: expect.stringMatching(/rise/) as string }); // prettier-ignore
    expect(readMapCsv('')).toEqual({ problem: expect.stringMatching(/none was found/) as string });
    fc.assert(fc.property(fc.string({ maxLength: 400 }), (text) => {
      const read = readMapCsv(text);
      expect('map' in read || read.problem.length > 0).toBe(true);
    })); // prettier-ignore
  });

  it('a plate turned by half a turn differs from itself by what turns along', () => {
    expect(turnedAbout(turnedAbout(map))).toEqual(map);
    expect(mapDifference(map, map).worst).toBeCloseTo(0, 6);
    expect(mapDifference(map, turnedAbout(map)).worst).toBeGreaterThan(0.05);
    expect(missOf(map, map).worst).toBeCloseTo(0, 9);
  });

  it('points make a map when none is missing', () => {
    const points = ys.flatMap((y, row) => xs.map((x, column) => ({ x, y, height: map.z[row]![column]! })));
    expect(heightsOf(points)).toEqual(map);
    expect(heightsOf(points.slice(1))).toBeUndefined();
  });
});

describe('what leaves', () => {
  it('patterns stay within plate and travel, and heat as the machine may', () => {
    const patterns = calibrationTools(plover, derive(plover)).filter(isPattern);
    expect(patterns.map(({ id }) => id)).toEqual(['lead', 'corners']);
    const { x, y } = plover.machine.frame.bed_mm;
    for (const { pattern } of patterns) {
      const gcode = pattern.gcode();
      for (const [, axis, mm] of gcode.matchAll(/ ([XY])(-?[\d.]+)/g)) {
        const [low, high] = axis === 'X' ? x : y;
        expect(Number(mm)).toBeGreaterThanOrEqual(low);
        expect(Number(mm)).toBeLessThanOrEqual(high);
      }
      expect(gcode.match(/^; band/gm)).toHaveLength(pattern.bands.length);
    }
  });

  it('start code that differs is told line by line, remarks aside', () => {
    const lines = lineDifferences('G28 ; home\nG1 Z5\nM104 S200', 'G28\nmap use\nG1 Z5 F600\nM104 S200');
    expect(lines).toEqual([
      { is: 'same', text: 'G28' },
      { is: 'only has', text: 'G1 Z5' },
      { is: 'only wanted', text: 'map use' },
      { is: 'only wanted', text: 'G1 Z5 F600' },
      { is: 'same', text: 'M104 S200' },
    ]);
    const text = fc.array(fc.constantFrom('G28', 'G1 X1', 'M84', 'map use'), { maxLength: 12 });
    fc.assert(fc.property(text, text, (one, other) => {
      const all = lineDifferences(one.join('\n'), other.join('\n'));
      expect(all.filter(({ is }) => is !== 'only wanted').map((line) => line.text)).toEqual(one);
      expect(all.filter(({ is }) => is !== 'only has').map((line) => line.text)).toEqual(other);
    })); // prettier-ignore
  });

  it('what people wrote is text in Markdown and on the card, and nothing else', () => {
    const name = 'Plover <b>|x|</b>\n# no';
    const text = recordAsMarkdown(name, '2026-11-27', {
      entries: [{ at: '2026-11-27T10:00:00Z', kind: 'note', summary: name }],
      measured: [],
    });
    expect(text).not.toMatch(/<b>|^# no/m);
    expect(text).toContain('Nothing is on record.');
    const card = wallCardHtml({ name, place: '', facts: [['<i>', name]], measured: [], due: [], cautions: [name], date: 'today' }); // prettier-ignore
    expect(card).not.toMatch(/<b>|<i>/);
  });

  it('a policy holds a machine back from what others take', () => {
    expect(heldBack('stay', 'part')).toMatch(/stay/);
    expect(heldBack('part', 'setting')).toMatch(/part/);
    expect(heldBack('part', 'part')).toBeUndefined();
    expect(heldBack('all', 'setting')).toBeUndefined();
    expect(heldBack(null, 'setting')).toBeUndefined();
  });
});
