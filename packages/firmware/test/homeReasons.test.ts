import type { HandAct } from '@jolly/core/bringup/handAct';
import type { Edit } from '@jolly/core/machine/edit';
import { HOME_REASONS, homeCauses } from '@jolly/core/proofs/homeCauses';
import { causesOf } from '@jolly/core/proofs/proof';
import { proofsOf } from '@jolly/core/proofs/proofs';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { builtDemo, demoFacts, own } from './fixtures/builtMachine';
import { personAt } from './fixtures/person';

const compiler = compilerForTests();

/** Homes a machine that is built with these edits while hands do these things: what the step found, and its first cause. */
async function homed(id: string, edits: readonly Edit[], hands: readonly HandAct[] = []) {
  const { facts, image, header } = await builtDemo(id, edits, compiler);
  const person = await personAt(facts, image, hands);
  const proof = certain(
    proofsOf(facts).find(({ id: step }) => step === 'home'),
    'the step that homes',
  );
  const { finding, evidence } = await person.prove(proof, header);
  return { finding, said: evidence[0], cause: causesOf(proof, finding)[0]?.cause };
}
const SHORT = own('reply.long', false);

describe('homing that stops tells what it was, and what to look at for that', () => {
  it.each<[string, Edit[], HandAct[], string, RegExp]>([
    ['a motor that runs the other way', [own('direction.x', true)], [], 'no switch met', /no force/],
    ['a switch that is read the wrong way round', [own('switch.y.pressed', 'low')], [], 'switch read as met', /holds its switch/],
    ['a switch that is held', [], [{ hold: 'x-switch', on: true }], 'switch read as met', /holds its switch/],
    ['a probe that is held', [], [{ hold: 'probe', on: true }], 'probe read as met', /at the probe/],
    ['a home spot that the probe does not reach', [own('travel.x.max', 60), own('home.spot.x', 40)], [], 'spot outside', /reach/],
    ['a motor that is too weak', [], [{ lay: 'current-low', on: true }], 'no plate met', /beside the plate/],
  ])('%s', async (_what, edits, hands, finding, first) => {
    const long = await homed('plover', edits, hands);
    expect(long).toMatchObject({ finding, cause: expect.stringMatching(first) as string });
    // By its number alone it is the same.
    const short = await homed('plover', [...edits, SHORT], hands);
    expect(short).toMatchObject({ finding, cause: long.cause });
    expect(short.said).not.toBe(long.said);
  }); // prettier-ignore

  it('every reason that homing knows is one of the kit’s, with a cause to look at', async () => {
    const facts = await demoFacts('plover');
    for (const [name, { finding }] of Object.entries(HOME_REASONS)) {
      expect(facts.kit.messages.map((message) => message.name)).toContain(name);
      expect(homeCauses(facts)[finding]?.length).toBeGreaterThan(0);
    }
  });
});
