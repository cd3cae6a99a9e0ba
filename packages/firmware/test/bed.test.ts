import type { Edit } from '@jolly/core/machine/edit';
import { mapPoints, withLine } from '@jolly/core/bringup/boardReading';
import type { BoardReadings } from '@jolly/core/bringup/boardReading';
import { mapReaches } from '@jolly/core/kit/storeRoom';
import { parseReply } from '@jolly/core/bringup/reply';
import { derive } from '@jolly/core/settings/derive';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { own, type Talk, talkTo, workshop } from './fixtures/builtMachine';
import { above, goTo } from './fixtures/overPlate';
import { TWO_Z } from './witnesses/driverWitnesses';

const plover = workshop();
const bittern = workshop('bittern');
/** A touch wanders by 0.004 mm either way, and is read to a step of 0.0025. */
const SCATTER_MM = 0.004 + 0.0025;

const pointsOf = (lines: readonly string[]) =>
  mapPoints(lines.reduce<BoardReadings>((known, line) => withLine(known, line, 0), {}));
const plateAt = ({ bench }: Talk, x: number, y: number) => certain(bench.plateAt(x, y), 'the plate'); // prettier-ignore

/** The store of a board that has taken a map. */
async function kept(): Promise<Uint8Array> {
  const talk = await plover.powered();
  talk.ask('G28');
  talk.ask('map take');
  talk.bench.advance(2);
  return talk.bench.store();
}

describe('a bed map', () => {
  it.each([1, 2, 3])('reproduces the plate within what the probe scatters, plate %i', async (seed) => {
    const talk = await plover.powered(seed);
    talk.ask('G28');
    const points = pointsOf(talk.ask('map take'));
    expect(points).toHaveLength(25);
    // All heights share what homing itself scattered.
    const off = points.map(({ x, y, height }) => height - plateAt(talk, x, y));
    const middle = off.reduce((sum, one) => sum + one, 0) / off.length;
    for (const one of off) expect(Math.abs(one - middle)).toBeLessThan(2 * SCATTER_MM);
  });
  it('keeps the nozzle at its height over the whole plate, and between its points', async () => {
    const talk = await plover.powered();
    talk.ask('G28');
    talk.ask('map take');
    const heights: number[] = [];
    for (const place of ['X30 Y30', 'X80 Y120', 'X140 Y60', 'X190 Y180', 'X35 Y190']) {
      goTo(talk, `${place} Z0.3`);
      heights.push(above(talk));
    }
    expect(Math.max(...heights) - Math.min(...heights)).toBeLessThan(0.03);
    expect(heights[0]).toBeCloseTo(0.3, 1);
    talk.ask('map drop');
    const bare: number[] = [];
    for (const place of ['X30 Y30', 'X190 Y180']) {
      goTo(talk, `${place} Z0.3`);
      bare.push(above(talk));
    }
    expect(Math.abs(bare[0]! - bare[1]!)).toBeGreaterThan(0.1);
  });
  it('follows on a way that goes right across', async () => {
    const talk = await plover.powered();
    talk.ask('G28');
    talk.ask('map take');
    goTo(talk, 'X20 Y20 Z0.3');
    talk.bench.send('G1 X200 Y195 F3000');
    const heights: number[] = [];
    for (let look = 0; look < 40; look += 1) {
      talk.bench.advance(0.12);
      heights.push(above(talk));
    }
    expect(Math.max(...heights) - Math.min(...heights)).toBeLessThan(0.05);
  });
  it('fades out with height, and the place told stays the place', async () => {
    const talk = await plover.powered();
    talk.ask('G28');
    talk.ask('map take');
    for (const z of [0.2, 4, 9.9, 30]) {
      goTo(talk, `X20 Y20 Z${z}`);
      expect(Number(talk.values('M114', 'at')['z'])).toBeCloseTo(z, 2);
    }
    const high = talk.bench.truth().position.z;
    talk.ask('map drop');
    expect(talk.bench.truth().position.z).toBe(high);
    expect(Number(talk.values('M114', 'at')['z'])).toBeCloseTo(30, 2);
  });
  it('is kept in a store that has room for it to the last byte, and in none that has not', async () => {
    for (const [bytes, is] of [[mapReaches(25, false), 'kept'], [mapReaches(25, false) - 1, 'none']] as const) {
      const store = new Uint8Array(bytes).fill(0xff);
      const talk = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store } });
      for (const line of ['G28', 'map take', 'G4 S2']) talk.ask(line);
      expect(talk.values('state', 'map')['state']).toBe('in-use');
      const later = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store: talk.bench.store() } });
      expect(later.values('state', 'map')).toMatchObject({ state: is, columns: '5', rows: '5' });
    }
  }); // prettier-ignore
  it('is kept over a power-off, taken up again by homing, and not by an image of another grid', async () => {
    const talk = await plover.powered();
    talk.ask('G28');
    talk.ask('map take');
    const rows = talk.ask('map show');
    talk.bench.advance(2);
    const state = { ...plover.state(), store: talk.bench.store() };
    const again = await talkTo({ facts: plover.facts(), state });
    expect(again.values('state', 'map')['state']).toBe('kept');
    expect(again.ask('map show')).toEqual(rows);
    again.ask('G28');
    expect(again.values('state', 'map')['state']).toBe('in-use');
    const { state: other } = await plover.built(own('map.columns', 4));
    const elsewhere = await talkTo({ facts: plover.facts(), state: { ...other, store: state.store } });
    expect(elsewhere.ask('map show')[0]).toBe('error: there is no map');
  });
  it('is none to an image whose map has another edge', async () => {
    const store = await kept();
    const state = async (...edits: Edit[]) => {
      const { state: other } = await plover.built(...edits);
      const { values } = await talkTo({ facts: plover.facts(), state: { ...other, store } });
      return values('state', 'map')['state'];
    };
    expect(await state()).toBe('kept');
    for (const edge of ['map.x.min', 'map.x.max', 'map.y.min', 'map.y.max'] as const) {
      const set = Number(derive(plover.facts()).get(edge)?.value);
      expect([edge, await state(own(edge, set + (edge.endsWith('min') ? 1 : -1)))]).toEqual([edge, 'none']);
    }
  });
  it('a half-written one is none, nor one with any byte of it spoilt', async () => {
    const whole = await kept();
    const last = whole.findLastIndex((byte) => byte !== 0xff);
    // Mark, points and sum, and two bytes a point.
    for (let at = last; at > last - 6 - 2 * 25; at -= 1) {
      const store = whole.slice();
      store[at] = (store[at] ?? 0) ^ 0x10;
      const { values } = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store } });
      expect([at, values('state', 'map')['state']]).toEqual([at, 'none']);
    }
  });
  it('is not begun where the probe does not reach, nor before homing', async () => {
    const talk = await plover.builtWith(own('map.x.max', 229));
    expect(talk.ask('map take')[0]).toBe('error: home X, Y and Z first');
    talk.ask('G28');
    const stood = talk.bench.truth().position;
    expect(talk.ask('map take')[0]).toBe('error: the probe does not reach there within the travel');
    expect(talk.bench.truth().position).toEqual(stood);
  });
  it('ends with the nozzle clear of a stop in its middle, and is no map', async () => {
    const talk = await plover.powered();
    talk.ask('G28');
    talk.bench.send('map take');
    talk.bench.advance(20);
    talk.bench.send('M112');
    talk.bench.advance(1);
    talk.ask('wake');
    expect(talk.ask('map show')[0]).toBe('error: there is no map');
    expect(talk.bench.truth().nozzleInPlateMm).toBe(0);
  });
});

describe('a probe that says it is stuck', () => {
  it('is freed by being let out once more, or said to be stuck', async () => {
    const talk = await plover.powered();
    expect(talk.ask('probe clear').at(-1)).toBe('done');
    talk.bench.advance(0.5);
    expect(talk.bench.truth().probe?.deployed).toBe(false);
    talk.bench.hold('probe', true);
    expect(talk.ask('probe clear')[0]).toBe(
      'error: reads as met although it was drawn in and let out again: it is stuck',
    );
  });
});

describe('what else follows the plate', () => {
  it('repeatability reports what the plant scatters', async () => {
    const talk = await plover.powered();
    talk.ask('G28');
    const lines = talk.ask('repeat n=30').map(parseReply);
    const told = certain(
      lines.find(({ values }) => values['touches']),
      'an outcome',
    ).values;
    const touches = lines.flatMap(({ values }) => (values['touch'] ? [Number(values['height'])] : []));
    expect(touches).toHaveLength(30);
    expect(Math.max(...touches) - Math.min(...touches)).toBeCloseTo(Number(told['span']), 3);
    // Two even wanders of 0.004 added up deviate by 0.0016; a step of 0.0025 adds to that.
    expect(Number(told['deviation'])).toBeGreaterThan(0.0008);
    expect(Number(told['deviation'])).toBeLessThan(0.0035);
    expect(Number(told['span'])).toBeLessThan(0.0125);
    expect(told['touches']).toBe('30');
  });
  it('a nudge takes effect at once, while moving too, and is kept only when it is stored', async () => {
    const talk = await plover.powered();
    talk.ask('G28');
    goTo(talk, 'X100 Y100 Z5');
    const from = talk.bench.truth().position.z;
    talk.ask('nudge z=-0.1');
    talk.ask('M400');
    expect(talk.bench.truth().position.z - from).toBeCloseTo(-0.1, 2);
    expect(Number(talk.values('M114', 'at')['z'])).toBeCloseTo(5, 2);
    talk.bench.send('G1 X200 F1200');
    talk.bench.send('nudge z=-0.2');
    talk.bench.send('G1 X110 F6000');
    talk.bench.advance(1);
    expect(talk.heard.filter((line) => line.startsWith('error'))).toEqual([]);
    talk.ask('M400');
    expect(talk.bench.truth().position.z - from).toBeCloseTo(-0.2, 2);
    const forgets = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store: talk.bench.store() } }); // prettier-ignore
    expect(forgets.ask('M503').join()).toContain('nudge z=0.000');
    talk.ask('M500');
    const keeps = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store: talk.bench.store() } }); // prettier-ignore
    expect(keeps.ask('M503').join()).toContain('nudge z=-0.200');
  });
  it('filament keeps its own speed, whatever a nudge makes of Z meanwhile', async () => {
    const nudged = await plover.powered();
    for (const line of ['nudge z=-0.04', 'M500']) nudged.ask(line);
    const talk = await talkTo({ facts: plover.facts(), state: { ...plover.state(), store: nudged.bench.store() } }); // prettier-ignore
    talk.ask('M83');
    talk.ask('M109 S200');
    /** How long it takes, from when it is sent on; and how far it fed. */
    const feeds = (...lines: string[]) => {
      const from = talk.bench.nowS();
      const fed = talk.bench.truth().position.e;
      for (const line of [...lines, 'M400']) talk.ask(line);
      return { s: talk.bench.nowS() - from, mm: Math.abs(talk.bench.truth().position.e - fed) };
    };
    // Not homed, with a nudge from the store: what stands, stands.
    const { z } = talk.bench.truth().position;
    const first = feeds('G1 E20 F120');
    expect(first.s).toBeGreaterThan(10);
    expect(first.s).toBeLessThan(10.5);
    expect(first.mm).toBeCloseTo(20, 1);
    expect(talk.bench.truth().position.z).toBe(z);
    talk.ask('nudge z=0.1');
    expect(feeds('G1 E5 F120').s).toBeGreaterThan(2.5);
    // Homed and on its way, the move that comes next takes the nudge along.
    talk.ask('G28');
    goTo(talk, 'X100 Y100 Z5');
    const high = talk.bench.truth().position.z;
    const drawn = feeds('G1 X110 F3000', 'nudge z=-0.1', 'G1 E-4 F120');
    expect(drawn.s).toBeGreaterThan(2.1);
    expect(drawn.s).toBeLessThan(2.8);
    expect(talk.bench.truth().position.z - high).toBeCloseTo(-0.2, 2);
    // Far out a sum of small moves and the place itself differ in the last digit.
    for (const start of [200, 150.3]) {
      for (const line of [
        `G1 X${start} F6000`,
        'G91',
        ...Array.from({ length: 7 }, () => 'G1 X0.1'),
        'G90',
        'M83',
      ])
        talk.ask(line);
      expect(feeds(`G1 X${(start + 0.7).toFixed(1)} E4 F120`).s, `${start}`).toBeGreaterThan(1.9);
    }
  });
  it('three points take the tilt out', async () => {
    const talk = await plover.builtWith(own('tilt.by', 'three-point'), own('map.on', false));
    talk.ask('G28');
    expect(talk.ask('tilt take').at(-1)).toBe('done');
    const corners = ['X20 Y20', 'X190 Y20', 'X190 Y190', 'X20 Y190'].map((place) => {
      goTo(talk, `${place} Z1`);
      return above(talk);
    });
    talk.ask('tilt drop');
    const bare = ['X20 Y20', 'X190 Y20', 'X190 Y190', 'X20 Y190'].map((place) => {
      goTo(talk, `${place} Z1`);
      return above(talk);
    });
    const span = (heights: number[]) => Math.max(...heights) - Math.min(...heights);
    expect(span(corners)).toBeLessThan(span(bare) / 2);
  });
  it('and so do three heights taken by hand', async () => {
    const talk = await plover.builtWith(own('tilt.by', 'by-hand'), own('map.on', false));
    expect(talk.ask('tilt next')[0]).toBe('error: nothing is being taken by hand');
    talk.ask('G28');
    talk.ask('tilt take');
    for (let point = 0; point < 3; point += 1) {
      for (const line of ['G91', `G1 Z${(0.1 - above(talk)).toFixed(3)} F120`, 'G90', 'M400', 'tilt next'])
        expect(talk.ask(line).at(-1)).toBe('done');
    }
    expect(talk.values('state', 'tilt')['known']).toBe('yes');
    const heights = ['X20 Y20', 'X190 Y20', 'X105 Y190'].map((place) => {
      goTo(talk, `${place} Z1`);
      return above(talk);
    });
    expect(Math.max(...heights) - Math.min(...heights)).toBeLessThan(0.03);
  });
  it('a tilt and a map are not added up, whichever was taken first', async () => {
    const talk = await plover.builtWith(own('tilt.by', 'three-point'), own('map.fade', 0));
    const heights = () =>
      ['X60 Y40', 'X180 Y40', 'X180 Y170', 'X60 Y170'].map((place) => {
        goTo(talk, `${place} Z3`);
        return above(talk);
      });
    const span = (found: number[]) => Math.max(...found) - Math.min(...found);
    talk.ask('G28');
    talk.ask('tilt take');
    const tilted = heights();
    talk.ask('map take', 600);
    expect(talk.values('state', 'tilt')['known']).toBe('yes');
    const mapped = heights();
    talk.ask('tilt drop');
    expect(heights()).toEqual(mapped);
    talk.ask('tilt take');
    expect(heights().every((height, at) => Math.abs(height - mapped[at]!) < SCATTER_MM)).toBe(true);
    expect(span(mapped)).toBeLessThan(0.02);
    // Without the map the tilt counts again.
    talk.ask('map drop');
    expect(heights().every((height, at) => Math.abs(height - tilted[at]!) < 2 * SCATTER_MM)).toBe(true);
    expect(Math.abs(span(tilted) - span(mapped))).toBeGreaterThan(0.005);
  });
  it('two Z motors on drivers of their own are made level by homing', async () => {
    const talk = await bittern.changed(...TWO_Z);
    expect(Math.abs(talk.bench.truth().tiltMm)).toBeGreaterThan(0.1);
    expect(talk.ask('G28', 900).at(-1)).toBe('done');
    // Level with the plate, which leans itself: the nozzle is as high above it left and right.
    const heights = ['X40 Y130 Z5', 'X240 Y130 Z5'].map((place) => {
      goTo(talk, place);
      return above(talk);
    });
    expect(Math.abs(heights[0]! - heights[1]!)).toBeLessThan(0.06);
    expect(talk.heard.filter((line) => line.startsWith('gantry')).length).toBeGreaterThan(1);
  });
});

describe('tramming', () => {
  it('tells a corner against the first only once the first was touched', async () => {
    const talk = await plover.powered();
    talk.ask('G28', 200);
    const against = (line: string) => talk.values(line, 'tram')['above-first'];
    expect(against('tram n=2')).toBe('-');
    expect(Number(against('tram n=1'))).toBe(0);
    expect(Math.abs(Number(against('tram n=2')))).toBeLessThan(1);
  });
});
