import { expect, it } from 'vitest';
import { own, workshop } from './fixtures/builtMachine';

const plover = workshop();

it('a display with a port of its own is told what the machine is, how warm, and what it does, letter by letter', async () => {
  const { ask, bench } = await plover.builtWith(own('link.display-port', 'second'));
  const warm = () => (['hotend', 'bed'] as const).map((body) => Math.round(bench.truth().temperatureC[body] ?? NaN));
  bench.advance(2);
  expect(bench.panelLines()).toEqual(['Plover', `hot end ${warm()[0]}/0 C`, `bed ${warm()[1]}/0 C`, 'idle']);
  ask('M104 S105');
  bench.send('G28');
  bench.advance(1.5);
  const [, hotend, bed, does] = bench.panelLines();
  expect(hotend).toMatch(/^hot end \d\d\/105 C$/);
  expect([bed, does]).toEqual([`bed ${warm()[1]}/0 C`, 'homing']);
  bench.advance(60);
  bench.send('M109 S110');
  bench.advance(2);
  expect(bench.panelLines()[3]).toBe('waiting');
  bench.send('cool');
  ask('pause');
  bench.advance(10);
  expect(bench.panelLines()[3]).toBe('paused');
  bench.send('M112');
  bench.advance(2);
  expect(bench.panelLines()[3]).toBe('stopped');
}); // prettier-ignore
it('is told of no bed where none is heated', async () => {
  const { bench } = await plover.builtWith(own('link.display-port', 'second'), own('bed.heated', false));
  bench.advance(2);
  expect(bench.panelLines().map((line) => line.split(' ')[0])).toEqual(['Plover', 'hot', 'idle']);
});
