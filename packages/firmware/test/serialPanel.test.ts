import { expect, it } from 'vitest';
import { own, workshop } from './fixtures/builtMachine';

const plover = workshop();

it('a display with a port of its own is told what the machine is, how warm, and what it does, letter by letter', async () => {
  const { ask, bench } = await plover.builtWith(own('link.display-port', 'second'));
  const warm = () => (['hotend', 'bed'] as const).map((body) => Math.round(bench.truth().temperatureC[body] ?? NaN));
  bench.advance(2);
  expect(bench.panelLines()).toEqual(['Plover', `hot end ${warm()[0]}/0 C`, `bed ${warm()[1]}/0 C`, 'ready']);
  ask('M104 S105');
  bench.send('G28');
  bench.advance(1.5);
  const [, hotend, bed, does] = bench.panelLines();
  expect(hotend).toMatch(/^hot end \d\d\/105 C$/);
  expect([bed, does]).toEqual([`bed ${warm()[1]}/0 C`, 'moving']);
  bench.send('M112');
  bench.advance(2);
  expect(bench.panelLines()[3]).toBe('stopped');
}); // prettier-ignore
