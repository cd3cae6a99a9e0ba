import { describe, expect, it } from 'vitest';
import { own, workshop } from './fixtures/builtMachine';
import { above, goTo } from './fixtures/overPlate';

const plover = workshop();

describe('heights taken by hand', () => {
  it('a nudge is in no height, and motors that are let go end it before anything moves', async () => {
    const talk = await plover.builtWith(own('map.shim', true), own('map.on', false), own('map.columns', 2), own('map.rows', 2), own('nudge.start', -0.2)); // prettier-ignore
    const taken = (nudge: string) => {
      talk.ask(`nudge z=${nudge}`);
      talk.ask('map shim');
      for (const line of ['G91', `G1 Z${(0.1 - above(talk)).toFixed(3)} F120`, 'G90', 'M400']) talk.ask(line);
      return Number(/height=(-?[\d.]+)/.exec(talk.ask('map next')[0] ?? '')?.[1]);
    };
    talk.ask('G28');
    expect(taken('-0.2')).toBeCloseTo(taken('0.1'), 2);
    talk.ask('M84');
    const { position } = talk.bench.truth();
    expect(talk.ask('map next')).toEqual(['error: home X, Y and Z first']);
    expect(talk.ask('map next')).toEqual(['error: nothing is being taken by hand']);
    expect(talk.bench.truth().position).toEqual(position);
  });
  it('each point is lowered to by you, below zero too, and no further than 3 mm', async () => {
    const talk = await plover.builtWith(own('map.shim', true), own('map.on', false), own('map.columns', 2), own('map.rows', 2)); // prettier-ignore
    talk.ask('G28');
    talk.ask('map shim');
    const felt: number[] = [];
    for (let point = 0; point < 4; point += 1) {
      const down = 0.1 - above(talk);
      talk.ask('G91');
      talk.ask(`G1 Z${down.toFixed(3)} F120`);
      talk.ask('G90');
      talk.ask('M400');
      if (point === 0) expect(talk.ask('G1 Z-3.2')[0]).toBe('error: outside the travel');
      felt.push(above(talk));
      talk.ask('map next');
    }
    expect(talk.values('state', 'map')['state']).toBe('in-use');
    expect(talk.ask('map next')[0]).toBe('error: nothing is being taken by hand');
    goTo(talk, 'X190 Y20 Z0.3');
    expect(above(talk)).toBeGreaterThan(0.2);
    expect(felt.every((height) => Math.abs(height - 0.1) < 0.01)).toBe(true);
  });
  it('what is refused leaves the map as it is, nothing leaves the travel, and homing ends it', async () => {
    const talk = await plover.builtWith(own('map.shim', true), own('map.columns', 2), own('map.rows', 2), own('tilt.by', 'by-hand')); // prettier-ignore
    const state = () => talk.values('state', 'map')['state'];
    talk.ask('G28');
    talk.ask('map take', 600);
    expect(state()).toBe('in-use');
    talk.ask('M84');
    expect(talk.ask('map shim')[0]).toBe('error: home X, Y and Z first');
    expect(talk.ask('tilt take')[0]).toBe('error: home X, Y and Z first');
    expect(state()).toBe('in-use');
    talk.ask('G28');
    talk.ask('map drop');
    talk.ask('G1 Z245 F900');
    talk.ask('M400', 900);
    const { blocked } = talk.bench.truth();
    expect(talk.ask('map shim', 300).at(-1)).toBe('done');
    expect(talk.bench.truth().blocked).toEqual(blocked);
    // A nozzle that stands high above the plate feels no shim; its height would not fit into a map.
    for (const height of ['40', '5.1']) {
      talk.ask(`G1 Z${height}`);
      talk.ask('M400', 300);
      expect(talk.ask('map next')[0]).toBe(
        'error: Z is more than 5 mm from 0; lower the nozzle onto the shim first',
      );
    }
    talk.ask('G1 Z4.9');
    talk.ask('M400', 300);
    expect(talk.ask('map next')[0]).toMatch(/^map point=1 of=4 .* height=4\.900$/);
    expect(talk.ask('G1 Z-2').at(-1)).toBe('done');
    talk.ask('G28', 300);
    expect(talk.ask('map next')[0]).toBe('error: nothing is being taken by hand');
    expect(talk.ask('G1 Z-2')[0]).toBe('error: outside the travel');
  });
  it('are those of the plate, the shim taken off; a thickness that is none leaves the map as it is', async () => {
    const talk = await plover.builtWith(own('map.shim', true), own('map.columns', 2), own('map.rows', 2)); // prettier-ignore
    talk.ask('G28');
    talk.ask('map take', 600);
    for (const thick of ['-0.1', '1.1']) {
      expect(talk.ask(`map shim s=${thick}`)).toEqual(['error: S must be 0 to 1 mm']);
      expect(talk.values('state', 'map')['state']).toBe('in-use');
    }
    talk.ask('map shim s=1');
    talk.ask('G1 Z1.3');
    talk.ask('M400');
    expect(talk.ask('map next')[0]).toMatch(/^map point=1 of=4 .* height=0\.300$/);
  });
});
