import { expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { carryOut, rigOf } from '../src';

const facts = factsOf(demoMachine('dunlin'));
/** What is wrong with a line, on a machine that is switched off; nothing when it is carried out. */
async function wrong(line: string): Promise<string | undefined> {
  const read = (name: string) => {
    if (name !== 'here/part.gco') throw new Error(`no file ${name}`);
    return Uint8Array.of(0x0a);
  };
  const rig = rigOf(facts, new Uint8Array(), 1, () => undefined, read);
  return carryOut(rig, line, () => undefined).then(
    () => undefined,
    (error: Error) => error.message,
  );
}

it('a card with files of the computer, with the tray, or none', async () => {
  expect(await wrong('@card here/part.gco')).toBeUndefined();
  expect(await wrong('@card tray')).toBeUndefined();
  expect(await wrong('@card out')).toBeUndefined();
  expect(await wrong('@card gone.gco')).toBe('no file gone.gco');
  expect(await wrong('@card')).toBe('@card wants tray, out, or the files that are to lie on it');
});

it.each([
  ['@wait soon', 'the seconds to wait must be a number from 0 to 1000000'],
  ['@wait', 'the seconds to wait must be a number from 0 to 1000000'],
  ['@warm hotend', 'the degrees must be a number from -50 to 600'],
  ['@press', 'the part to press is missing'],
  ['@knob up', '@knob wants right, left or press'],
  ['@touch 2 0', 'how far across must be a number from 0 to 1'],
  ['@power', '@power wants on or off'],
  ['G28', 'there is no power; @power on gives it'],
  ['@display', 'there is no power; @power on gives it'],
])('%s is refused with what was expected', async (line, says) => {
  expect(await wrong(line)).toBe(says);
});

it('what it does not know is told with what there is, and a remark does nothing', async () => {
  expect(await wrong('@jump 3')).toMatch(/^there is no @jump; there are @truth, @send, @wait, /);
  expect(await wrong('# @jump')).toBeUndefined();
  expect(await wrong('  ')).toBeUndefined();
});
