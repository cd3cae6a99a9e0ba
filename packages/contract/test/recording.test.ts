import { MOST_BENCH_INPUTS } from '@jolly/core/text/limits';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { recording } from '../src/recording';

const GOOD = {
  seed: 7,
  hostBaud: 115200,
  store: 'AAAA',
  begins: { position: { x: 0, y: 1, z: 2, e: 3 }, temperatureC: { hotend: 21 }, offS: 60 },
  hands: [{ hold: 'x-switch', on: true }],
  inputs: [
    { atNs: 1, line: 'G28' },
    { atNs: 2, hand: { warm: 'bed-sensor', c: 40 } },
    { atNs: 3, knob: -2 },
    { atNs: 4, finger: { x: 0.5, y: 1 } },
    { atNs: 5, finger: null },
  ],
  untilNs: 9e9,
  heard: 12,
  sum: 0xffffffff,
};
/** What is wrong with a recording of which one thing is another; undefined where nothing is. */
const refused = (change: object): string | undefined =>
  recording.joi.required().validate({ ...GOOD, ...change }, { convert: false }).error?.message;
const withInput = (input: unknown) => refused({ inputs: [input] });
const withHand = (hand: unknown) => refused({ hands: [hand] });

describe('the run that a proof rests on', () => {
  it('is taken whole, with or without where it began', () => {
    expect(refused({})).toBeUndefined();
    expect(refused({ begins: undefined })).toBeUndefined();
  });

  it.each(Object.keys(GOOD).filter((name) => name !== 'begins'))('without %s it is none', (name) => {
    expect(refused({ [name]: undefined })).toMatch(new RegExp(`"${name}" is required`));
  });

  it.each([
    ['seed', -1],
    ['seed', 1.5],
    ['seed', 2 ** 32],
    ['hostBaud', '115200'],
    ['untilNs', -1],
    ['untilNs', 1.1e15],
    ['untilNs', NaN],
    ['heard', Infinity],
    ['sum', 2 ** 32],
    ['store', 'not base 64!'],
    ['store', 'A'.repeat(100_004)],
  ])('%s of %s is refused by its name', (name, value) => {
    expect(refused({ [name]: value })).toContain(`"${name}"`);
  });

  it('has no more inputs and hands than it may', () => {
    const inputs = (count: number) => Array.from({ length: count }, () => ({ atNs: 0, line: 'state' }));
    expect(refused({ inputs: inputs(MOST_BENCH_INPUTS) })).toBeUndefined();
    expect(refused({ inputs: inputs(MOST_BENCH_INPUTS + 1) })).toContain('"inputs"');
    const hands = (count: number) => Array.from({ length: count }, () => ({ lay: 'belt-slips', on: true }));
    expect(refused({ hands: hands(200) })).toBeUndefined();
    expect(refused({ hands: hands(201) })).toContain('"hands"');
  });

  it.each([
    ['nothing', {}],
    ['no moment', { line: 'G28' }],
    ['a moment before the power', { atNs: -1, line: 'G28' }],
    ['two things at once', { atNs: 1, line: 'G28', knob: 1 }],
    ['a line of two lines', { atNs: 1, line: 'G28\nM112' }],
    ['a line that no board takes', { atNs: 1, line: 'x'.repeat(201) }],
    ['half a turn of the knob', { atNs: 1, knob: 0.5 }],
    ['a thousand turns and one', { atNs: 1, knob: 1001 }],
    ['a finger beside the glass', { atNs: 1, finger: { x: 1.01, y: 0 } }],
    ['a finger of one number', { atNs: 1, finger: { x: 1 } }],
    ['something of another kind', { atNs: 1, shout: 'G28' }],
  ])('an input that is %s is refused', (_, input) => {
    expect(withInput(input)).toContain('"inputs[0]');
  });

  it.each([
    [
      { hold: 'x-switch', on: true },
      { hold: 'x-switch', on: 'yes' },
    ],
    [
      { warm: 'bed-sensor', c: null },
      { warm: 'bed-sensor', c: 601 },
    ],
    [
      { warm: 'bed-sensor', c: -50 },
      { warm: 'bed-sensor', c: -51 },
    ],
    [
      { cool: 'bed', share: 1000 },
      { cool: 'bed', share: 1001 },
    ],
    [
      { cool: 'bed', share: 0 },
      { cool: 'bed', share: -0.1 },
    ],
    [
      { pull: 'part-fan', out: false },
      { pull: '', out: false },
    ],
    [
      { lay: 'belt-slips', on: false },
      { lay: 'b'.repeat(61), on: false },
    ],
  ])('hands can do %j, and not %j', (can, cannot) => {
    expect(withHand(can)).toBeUndefined();
    expect(withHand(cannot)).toContain('"hands[0]');
  });

  it('begins where a machine can stand, as warm as it can be', () => {
    const begins = (change: object) => refused({ begins: { ...GOOD.begins, ...change } });
    expect(begins({ position: { x: 0, y: 0, z: 0 } })).toContain('position.e');
    expect(begins({ temperatureC: { hotend: 2001 } })).toContain('temperatureC.hotend');
    expect(begins({ temperatureC: { 'Hot end': 20 } })).toContain('temperatureC');
    expect(begins({ offS: -1 })).toContain('offS');
  });

  it('whatever else is sent in its place is refused, never taken', () => {
    fc.assert(
      fc.property(fc.anything(), (sent) => {
        expect(recording.joi.required().validate(sent, { convert: false }).error).toBeDefined();
      }),
    );
  });
});
