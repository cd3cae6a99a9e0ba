import { describe, expect, it } from 'vitest';
import { startCompiler } from '../../server/src/build/compiler';
import { paths } from '../../server/src/paths';
import { buildFor, demoFacts, flashed, root, talkTo } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';

const compiler = compilerForTests();

const HOSTILE = [
  'measured */\n#define guard_trips(a,b,c) false\n/* ok',
  'measured *\\\n/\n#define heat_tick() (void)0\n',
  'measured ??/\n#define stop_now(x)',
  '*/ _Static_assert(0, "in"); /*',
];

describe('text never becomes code', () => {
  it.each(HOSTILE)('a reason stays a comment, whatever stands in it: %j', async (because) => {
    const plain = await demoFacts('plover');
    const hostile = structuredClone(plain);
    hostile.machine.pins = { 'x-switch': { pin: 22, because } };
    const same = structuredClone(plain);
    same.machine.pins = { 'x-switch': { pin: 22, because: 'measured' } };
    const [a, b] = [await buildFor(hostile, compiler), await buildFor(same, compiler)];
    if ('failed' in a || 'failed' in b) throw new Error(JSON.stringify([a, b]));
    expect(Buffer.compare(a.image.subarray(96), b.image.subarray(96))).toBe(0);
  });

  it.each(['a??/"; int x; "', 'quote " and \\ backslash', 'Käte 🦉 of Löw', 'new\nline'])(
    'a name stays a name: %j',
    async (name) => {
      const facts = structuredClone(await demoFacts('plover'));
      facts.machine.settings['machine.name'] = { value: name, source: 'override', because: 'test' };
      const outcome = await buildFor(facts, compiler);
      const { heard, ask } = await talkTo({ facts, state: flashed(facts, outcome) });
      ask('M115');
      const told = heard.filter((line) => line.startsWith('lantern'));
      expect(told.length).toBeGreaterThan(0);
      for (const line of told) expect(line).toMatch(/^lantern name="[ !#-~]*" kit=/);
    },
  );
});

describe('what the settings promise is read out of the linked image', () => {
  it.each([
    [
      'heat/heat.c',
      'guard_trips(heater, target[heater], now[heater], duty[heater])',
      'duty[heater] > 5',
      'guard_trips is not in the image',
    ],
    [
      'heat/guard.c',
      'HOTEND, GUARD_HOTEND_RISE',
      'CHAMBER, GUARD_HOTEND_RISE',
      'guard.hotend = 1; the image has 0',
    ],
    ['heat/heat.c', 'HEAT_HOTEND_MAX, "hotend"', 'HEAT_HOTEND_MAX + 40, "hotend"', 'heat.hotend.max'],
    ['heat/heat.c', 'EXPORT(lantern_guard) ', '', 'tells none'],
  ])('%s without its guard is no build that is done', async (file, from, to, says) => {
    const facts = await demoFacts('plover');
    const outcome = await buildFor(facts, compiler, (name, text) =>
      name === file ? text.replace(from, to) : text,
    );
    expect('failed' in outcome && outcome.failed.message).toContain(says);
  });
});

describe('a compile has limits', () => {
  const bomb = `#define A 1,1,1,1,1,1,1,1,1,1,
#define B A A A A A A A A A A
#define C B B B B B B B B B B
#define D C C C C C C C C C C
#define E D D D D D D D D D D
#define F E E E E E E E E E E
#define G F F F F F F F F F F
int v[] = { G };
`;
  const turn = (owner: string) => ({ owner, signal: new AbortController().signal });

  it('ends what takes too long, says so, and lets others work meanwhile', async () => {
    const strict = startCompiler(paths(root, root).compilerWorker, { seconds: 4, megabytes: 512 });
    let stuck = true;
    const bombed = strict
      .compile({ sources: ['bomb.c'], files: { 'bomb.c': bomb } }, turn('first'))
      .finally(() => (stuck = false));
    const other = await strict.compile(
      { sources: ['a.c'], files: { 'a.c': 'static int a; int *use(void); int *use(void) { return &a; }' } },
      turn('second'),
    );
    expect([stuck, other.failed]).toEqual([true, undefined]);
    expect((await bombed).log).toMatch(/compiling bomb.c: it (took longer than 4 s|wanted more than)/);
    const after = await strict.compile(
      { sources: ['b.c'], files: { 'b.c': 'static int b; int *use(void); int *use(void) { return &b; }' } },
      turn('first'),
    );
    expect(after.failed).toBeUndefined();
    strict.close();
  });

  it('ends what takes too much memory, and says so', async () => {
    const small = startCompiler(paths(root, root).compilerWorker, { seconds: 60, megabytes: 200 });
    const bombed = await small.compile({ sources: ['bomb.c'], files: { 'bomb.c': bomb } }, turn('first'));
    expect(bombed.log).toContain('compiling bomb.c: it wanted more than 200 MB of memory');
    const after = await small.compile(
      { sources: ['b.c'], files: { 'b.c': 'static int b; int *use(void); int *use(void) { return &b; }' } },
      turn('first'),
    );
    expect(after.failed).toBeUndefined();
    small.close();
  });
});
