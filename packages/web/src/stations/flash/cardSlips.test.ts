import { describe, expect, it } from 'vitest';
import { cardSlips, lossSlips } from './cardSlips';

const record = {
  outcome: undefined,
  taken: false,
  newest: 'as they are',
  image: undefined,
  suggested: 'NEXT.BIN',
} as const;
const image = { name: 'Plover', buildId: '0badf00d' };
const said = (part: Partial<Parameters<typeof cardSlips>[1]>) =>
  cardSlips('plover', { ...record, ...part }).map(({ what }) => what);

describe('what the docket says of card and flash', () => {
  it('nothing stands in the way of a fresh image', () => {
    expect(said({})).toEqual([]);
  });
  it('no image is not an older image', () => {
    expect(said({ newest: 'none' })).toEqual(['There is no image for this board yet.']);
    expect(said({ newest: 'older' })).toEqual([
      'The newest image is not made from the settings as they are.',
    ]);
  });
  it('an earlier image that is flashed again is said to be that', () => {
    expect(said({ newest: 'again' })).toEqual(['This image is not made from the settings as they are.']);
  });
  it('a refusal says what the flash still holds, and the name to try next', () => {
    const outcome = {
      taken: false,
      reason: 'name used',
      because: 'this board took that name before',
    } as never;
    const [empty] = cardSlips('plover', { ...record, outcome });
    expect(empty).toMatchObject({
      check: 'card.name-used',
      evidence: ['the flash still holds what it held, which is not on record'],
    });
    expect(empty!.why).toBe(
      'This board took that name before. Switch off, write the card again as NEXT.BIN, and switch on.',
    );
    const [held] = cardSlips('plover', { ...record, outcome, image });
    expect(held!.evidence).toEqual(['the flash still holds Plover, build 0badf00d']);
  });
  it('proven only when the image that was built is in the flash', () => {
    expect(said({ image })).toEqual([]);
    expect(said({ image, taken: true })).toEqual(['The board took the image.']);
  });
});

describe('what goes with the present image', () => {
  const lost = (count: number) => ({
    state: 'known' as const,
    list: Array.from({ length: count }, (_, index) => ({
      key: `k${index}`,
      label: `Thing ${index}`,
      lost: 'It is gone.',
      known: 'you said so' as const,
    })),
  });
  const what = (...words: Parameters<typeof lossSlips>) => lossSlips(...words).map((slip) => slip.what);
  const before = { seen: false, flashed: false };

  it('is said before it is flashed, in the past after it, and not at all once it was seen', () => {
    expect(what('p', lost(1), before)).toEqual(['The next image takes 1 thing away.']);
    expect(what('p', lost(3), { seen: false, flashed: true })).toEqual([
      'The image in the board took 3 things away.',
    ]);
    expect(what('p', lost(3), { seen: true, flashed: false })).toEqual([]);
  });
  it('not known yet is no nothing', () => {
    expect(what('p', { state: 'pending', list: [] }, before)).toEqual([
      'What the next image takes away is not known yet.',
    ]);
    expect(what('p', { state: 'failed', list: [] }, before)).toHaveLength(1);
    expect(what('p', lost(0), before)).toEqual([]);
    expect(what('p', undefined, before)).toEqual([]);
  });
});
