import { type RigEvent, rigOf } from '@jolly/bench';
import { SILENT_S } from '@jolly/core/bringup/answering';
import { expect, it } from 'vitest';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { builtDemo } from './fixtures/builtMachine';

const compiler = compilerForTests();

it('a rig waits for what takes minutes, and not for a board that is not heard', async () => {
  const { facts, image } = await builtDemo('plover', [], compiler);
  const told: RigEvent[] = [];
  const rig = rigOf(facts, image, 7, (event) => void told.push(event));
  const noAnswers = () => told.flatMap((event) => ('notice' in event ? [event.notice] : [])).filter((said) => said.startsWith('no answer')); // prettier-ignore
  await rig.power(true);
  let from = rig.nowS();
  rig.ask('M190 S60');
  expect(rig.nowS() - from).toBeGreaterThan(6 * SILENT_S);
  expect(noAnswers()).toEqual([]);
  rig.lay('cable-out');
  from = rig.nowS();
  rig.ask('M105');
  expect(rig.nowS() - from).toBeCloseTo(SILENT_S, 1);
  expect(noAnswers()).toEqual([`no answer: nothing was heard for ${SILENT_S} s`]);
  rig.mend('cable-out');
  rig.ask('M105');
  expect(noAnswers()).toHaveLength(1);
});
