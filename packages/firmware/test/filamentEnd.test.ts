import type { Edit } from '@jolly/core/machine/edit';
import { expect, it } from 'vitest';
import { TWO_EXTRUDERS } from '../../core/test/fixtures/twoExtruders';
import { buildFor, demoFacts, flashed, own, talkTo } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';

const compiler = compilerForTests();

const REEL: Edit[] = [
  { path: ['parts', 21], value: { id: 'reel', part: 'reel-switch', role: 'filament' } },
  { path: ['harness', 'reel'], value: { leads: { signal: 'FILAMENT.2', ground: 'FILAMENT.1' } } },
];

it('the sensor at the first extruder’s filament pauses what the first one feeds, and not the second', async () => {
  const facts = await demoFacts('bittern', ...TWO_EXTRUDERS, ...REEL, own('extrude.from', 0));
  const state = flashed(facts, await buildFor(facts, compiler));
  const pausedWith = async (tool: 'T0' | 'T1') => {
    const talk = await talkTo({ facts, state, seed: 1 });
    for (const line of ['G28', 'G1 X20 Y100 Z5 F9000', 'M400', tool]) talk.ask(line);
    talk.bench.hold('reel', true);
    expect(talk.values('state', 'filament')).toEqual({ state: 'gone' });
    talk.ask('G1 X190 E20 F1500');
    talk.bench.advance(12);
    return talk.values('state', 'print')['paused'];
  };
  expect([await pausedWith('T0'), await pausedWith('T1')]).toEqual(['yes', 'no']);
});
