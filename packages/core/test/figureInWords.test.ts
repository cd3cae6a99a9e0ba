import fc from 'fast-check';
import { expect, it } from 'vitest';
import { figureInWords } from '../src/text/figureInWords';

it.each([
  [0.0031000000000000003, '0.0031'],
  [-1.518, '−1.518'],
  [381.82, '381.82'],
  [0.002312382129128123, '0.0023'],
  [-0.00001, '0'],
  [12, '12'],
])('%s is read as %s', (value, words) => {
  expect(figureInWords(value)).toBe(words);
});

it('is never further from the number than half of its last digit, and never a minus zero', () => {
  fc.assert(
    fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (value) => {
      const words = figureInWords(value);
      const read = Number(words.replace('−', '-'));
      expect(Math.abs(read - value)).toBeLessThanOrEqual(Math.abs(value) < 1 ? 0.00005001 : 0.0005001);
      expect(words).not.toMatch(/^−0$|-/);
    }),
  );
});
