import { describe, expect, it } from 'vitest';
import { buildFor, demoFacts, flashed, talkTo } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';

const compiler = compilerForTests();

describe('what a board that was just switched on shows by itself', () => {
  it.each(['plover', 'bittern', 'dunlin'])(
    '%s: every fan stands still while everything is cold',
    async (id) => {
      const facts = await demoFacts(id);
      const { bench } = await talkTo({ facts, state: flashed(facts, await buildFor(facts, compiler)) });
      bench.advance(3);
      expect(Object.values(bench.truth().fans).filter((turns) => turns !== 0)).toEqual([]);
    },
  );
});
