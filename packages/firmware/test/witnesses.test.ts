import { describe, expect, it } from 'vitest';
import { readNow } from '@jolly/core/kit/kit';
import { certain } from '@jolly/core/tree/certain';
import { seededRandom } from '../../bench/src/plant/random';
import { demoFacts } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { witnesses } from './witnesses';
import { leavesOut, prove } from './witnesses/prove';

/** Another sample: `OPTIONS_SEED=7 npx vitest run witnesses`; all of them: `npm run options`. */
const SEED = Number(process.env['OPTIONS_SEED'] ?? 14);
const SAMPLE = 14;

const random = seededRandom(SEED);
const sample = [...witnesses]
  .map((witness) => ({ witness, place: random() }))
  .sort((one, other) => one.place - other.place)
  .slice(0, SAMPLE)
  .map(({ witness }) => witness);
const witnessOf = (key: string) => certain(witnesses.find((entry) => entry.key === key), key); // prettier-ignore

const compiler = compilerForTests();

describe('every option is real in the code', () => {
  it('each option that the kit reads has a witness, and no witness is of an option that is gone', async () => {
    const { kit } = await demoFacts('plover');
    // What only the compiler reads is in no source; server/test/effort.test.ts tries it.
    const keys = readNow(kit).filter(({ group }) => group !== 'compiler').map(({ key }) => key); // prettier-ignore
    expect(witnesses.map(({ key }) => key).sort()).toEqual([...keys].sort());
  });
  it.each(sample)('$key does something else with each value, and is left out when off', async (witness) => {
    const { kit } = await demoFacts('plover');
    const { shows, bytes } = await prove(witness, compiler);
    expect(shows[0]).not.toEqual(shows[1]);
    const option = certain(kit.options.find(({ key }) => key === witness.key), 'the option'); // prettier-ignore
    if (leavesOut(option, witness)) expect(bytes[0]).toBeLessThan(bytes[1]);
  });
  it.each([
    ['fan.hotend.from', 'fans/fans.c', 'blow(PIN_HOTEND_FAN, on);', ''],
    ['lead.time', 'motion/stepper.c', 'count = own + extra;', 'count = own;'],
    [
      'map.fade',
      'bed/shape.c',
      'return steady(x, y) + (left > 0 ? left * mapped(x, y) : 0);',
      'return steady(x, y) + (left > -1 ? mapped(x, y) : 0);',
    ],
    ['park.lift', 'job/pause.c', 'to.mm[Z] + PARK_LIFT', 'to.mm[Z] + 10'],
  ])('the witness of %s notices when its C is taken out', async (key, file, from, to) => {
    const { shows } = await prove(witnessOf(key), compiler, (name, text) => {
      if (name !== file) return text;
      expect(text).toContain(from);
      return text.replace(from, to);
    });
    expect(shows[0]).toEqual(shows[1]);
  });
});
