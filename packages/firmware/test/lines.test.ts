import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { workshop } from './fixtures/builtMachine';

const plover = workshop();
/** A line with its number and sum. */
function framed(number: number, line: string): string {
  const text = `N${number} ${line}`;
  return `${text}*${[...text].reduce((sum, letter) => sum ^ letter.charCodeAt(0), 0)}`;
}

describe('a line is read whole or not at all', () => {
  it.each([
    'hello', 'G', 'G1 X', 'G1 X1e5', 'G1 X--3', 'G1 Xabc', 'M9999', 'G1 F0', 'T0', 'G.0', 'G0.1 X5', 'G28F', 'G28 X5',
    'G1 X1 X2', 'G1 X99999999999', 'G1 X.', 'G1 X-', 'G1 X5 Q1', 'G1 X5 Y', 'M104', 'M104 S', 'M105 S3', 'G1X5:', 'G92 X3',
    'M92 X', 'M92 Q5', 'M92 X0', 'offset z', 'offset z=', 'offset =1', 'offset z=1 z=2', 'offsets z=1', 'G99999 X1',
    '*12', 'N G28', 'N1 G28*', 'N1 G28*999', 'G28*12x', `G1 ${'X1 '.repeat(60)}`,
  ])('"%s" gets an error, and nothing moves or changes', async (line) => {
    const { ask, bench } = await plover.powered();
    const settings = ask('M503');
    const before = bench.truth();
    expect(ask(line, 2).at(-1)).toMatch(/^error: /);
    bench.advance(2);
    expect(bench.view().position).toEqual(before.position);
    expect(bench.truth().duty).toEqual(before.duty);
    expect(ask('M503')).toEqual(settings);
  }); // prettier-ignore
  it.each([
    'G1X1.5',
    'G1 X+1.5',
    'G01 X1.5000000000000000',
    'G1 X1.5;there',
    'G1 X01.5',
    '  G1   X1.5  ',
    'G1 X1.5 F600',
  ])('"%s" goes to 1.5', async (line) => {
    const { ask, values } = await plover.powered();
    expect(ask(line).at(-1)).toBe('done');
    ask('M400');
    expect(values('M114', 'at')['x']).toBe('1.500');
  });
  it('an empty line and a comment are done', async () => {
    const { ask } = await plover.powered();
    for (const line of [';', '; words', '   ']) expect(ask(line, 1).at(-1)).toBe('done');
  });
});

describe('numbers and sums', () => {
  it('numbered lines are taken in order, and none twice', async () => {
    const { ask } = await plover.powered();
    expect(ask(framed(1, 'G91')).at(-1)).toBe('done');
    expect(ask(framed(3, 'G1 X1')).at(-1)).toBe(
      'error: a line is missing, nothing done; send again from line=2',
    );
    expect(ask(framed(2, 'G1 X1')).at(-1)).toBe('done');
    expect(ask(framed(2, 'G1 X1')).at(-1)).toBe(
      'error: a line is missing, nothing done; send again from line=3',
    );
    expect(ask(framed(41, 'M110 N0')).at(-1)).toBe('done');
    expect(ask(framed(1, 'G90')).at(-1)).toBe('done');
  });
  it('a damaged line moves nothing and is asked for again', async () => {
    const { ask, bench } = await plover.powered();
    const at = bench.view().position;
    const line = framed(1, 'G1 X5');
    for (let index = 0; index < line.indexOf('*'); index += 1) {
      const damaged = `${line.slice(0, index)}${String.fromCharCode(line.charCodeAt(index) ^ 2)}${line.slice(index + 1)}`;
      expect(ask(damaged, 2).at(-1)).toMatch(/^error: /);
    }
    bench.advance(1);
    expect(bench.view().position).toEqual(at);
    expect(ask(line).at(-1)).toBe('done');
  });
});

/** How lines that nearly hold begin. */
const HEADS =
  'G0 G1 G2 G28 G92 M92 M104 M106 M203 M300 T0 offset nudge current servo lamp preheat origin repeat'
    .split(' ')
    .concat('map use', 'card print', 'limits off');
/**
 * More of them: `LINES=100000 npx vitest run lines` sends so many that nearly hold, and ten times as many of any bytes;
 * the same again: `SEED=…` beside it.
 */
const RUNS = Number(process.env['LINES'] ?? 300);
const SEED = process.env['SEED'];

const alphabet = fc.constantFrom(...'GMNXYZEFS0123456789.-+*; =offsetwak'.split(''));
const anyBytes = fc.string({ unit: 'binary', maxLength: 120 }).map((text) => text.replace(/[\n\r]/g, ' '));
const nearlyValid = fc.oneof(
  fc.string({ unit: alphabet, maxLength: 40 }),
  fc.tuple(fc.constantFrom(...HEADS), fc.string({ unit: alphabet, maxLength: 20 })).map(([head, rest]) => `${head} ${rest}`),
  anyBytes,
); // prettier-ignore

/** A blank line, or nothing but a remark, has no answer. */
const asks = (line: string) => line.replace(/;.*/, '').trim() !== '';

describe('the longest line', () => {
  it('has 95 letters', async () => {
    const { ask } = await plover.powered();
    expect(ask('G4 P1'.padEnd(95))).toEqual(['done']);
    expect(ask('G4 P1'.padEnd(96))).toEqual(['error: line too long, nothing done']);
    expect(ask('G4 P1')).toEqual(['done']);
  });
});

describe('hostile lines', () => {
  it.each([
    ['that nearly hold', nearlyValid, RUNS],
    ['of any bytes', anyBytes, 10 * RUNS],
  ])(
    '%s are survived; nothing moves but by a line that is done, and the next question is answered',
    { timeout: 0 },
    async (_name, lines, numRuns) => {
      const { bench, ask, heard, notices } = await plover.powered();
      fc.assert(
        fc.property(lines, (line) => {
          const from = heard.length;
          const before = bench.view().position;
          const answer = () => heard.slice(from).find((said) => /^(done|error|stopped)/.test(said));
          bench.send(line);
          bench.advanceUntil(() => answer() !== undefined, asks(line) ? 90 : 0.1);
          if (answer()?.startsWith('error')) expect(bench.view().position, line).toEqual(before);
          const going =
            answer() === undefined ? asks(line) : answer() === 'done' && ask('M400', 120).at(-1) !== 'done';
          // What takes minutes is stopped, so that it is not taken for what the next line does.
          if (going) bench.send('M112');
          bench.advance(0.1);
          if (heard.slice(from).some((said) => said.startsWith('stopped'))) ask('wake');
          // Settings that are in range can ask for more than a chip can do; the bench says so, and goes on.
          const hangs = notices.filter((said) => !said.startsWith('the chip cannot keep up'));
          expect(hangs, `after: ${JSON.stringify(heard.slice(-20))}`).toEqual([]);
        }),
        // The board remembers what was said before: less of it would be another matter.
        { numRuns, endOnFailure: true, ...(SEED !== undefined && { seed: Number(SEED) }) },
      );
      bench.send('');
      bench.advance(130);
      expect(ask('M114').some((line) => line.startsWith('at x='))).toBe(true);
    },
  );
});
