import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readStore } from '../src/kit/storedSettings';
import { derive } from '../src/settings/derive';
import { storedOtherwise } from '../src/settings/storedOtherwise';
import { demoMachine, factsOf, own } from './fixtures/demo';
import { applyEdits } from '../src/machine/edit';

const plover = factsOf(demoMachine('plover'));
const { kit } = plover;
const known = { kit, settings: derive(plover) };

describe('stored settings that were tested', () => {
  it.each([
    ['as the machine file has them', { 'steps.x': 100.0004 }, undefined, undefined],
    ['as they were when they were tested', { 'steps.x': 80 }, { 'steps.x': 80 }, undefined],
    ['a nudge, which is set while it prints', { 'nudge.start': -0.05 }, undefined, undefined],
    ['what the touch layer said at its marks', { 'touch.left': 300, 'touch.top': 3650 }, undefined, undefined],
    ['of another kit', { 'no.such': 3 }, undefined, undefined],
    ['by hand', { 'steps.x': 200 }, { 'steps.x': 80 }, 'the board stores 200 steps/mm as “X steps”, the machine file has 100 steps/mm; it stored 80 steps/mm when it was tested'],
    ['before that was written down, and more', { 'steps.x': 200, 'steps.y': 7, 'steps.z': 400 }, undefined, 'the board stores 200 steps/mm as “X steps”, the machine file has 100 steps/mm, and 1 more is another one'],
  ])('%s', (_how, stored, tested, because) => {
    expect(storedOtherwise(stored, tested, known)).toBe(because);
  }); // prettier-ignore

  it('say nothing of an image that keeps none', () => {
    const keepsNone = factsOf(applyEdits(demoMachine('plover'), [own('store.kept', false)]));
    expect(storedOtherwise({ 'steps.x': 200 }, undefined, { kit, settings: derive(keepsNone) })).toBeUndefined(); // prettier-ignore
  });
});

describe('a store', () => {
  it('of any bytes is read as nothing, and never fails', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 900 }), fc.boolean(), (bytes, marked) => {
        if (marked) bytes.set([0x4c, 0, 0, 0].slice(0, bytes.length));
        expect(readStore(bytes, kit)).toEqual({});
      }),
    );
  });
});
