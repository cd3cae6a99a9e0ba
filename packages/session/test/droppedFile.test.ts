import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { FILE_KINDS, FILE_PLACES, kindOfFile, TELLING_BYTES } from '../src/droppedFile';

const bytes = (text: string) => new TextEncoder().encode(text);
const catalogued = (path: string) =>
  new Uint8Array(readFileSync(new URL(`../../../catalogue/${path}`, import.meta.url))).subarray(0, TELLING_BYTES); // prettier-ignore

describe('a file that is let go anywhere', () => {
  it.each([
    ['anything.txt', catalogued('demo/bittern.yaml'), 'machine'],
    ['sedge.yaml', catalogued('boards/sedge-s4.yaml'), 'board'],
    ['firmware.BIN', new Uint8Array([0, 1, 2]), 'image'],
    ['maker.hex', bytes(':00000001FF\n'), 'image'],
    ['IMG 1.JPG', new Uint8Array([255, 216, 0]), 'photo'],
    ['plate.csv', bytes('y \\ x,0,10\r\n'), 'map'],
    ['tray.gcode', bytes('G28\n'), 'print'],
    ['all.zip', new Uint8Array([80, 75, 3, 4, 0]), 'archive'],
    ['terminal log', bytes('echo: M92 X80\n'), 'report'],
    ['notes.yaml', bytes('shopping: [glue]\n'), undefined],
    ['empty.txt', bytes(' \n'), undefined],
    ['odd', bytes('M92\0X80'), undefined],
    ['with control letters', bytes('M92 X80\u0001\n'), 'report'],
  ] as const)('%s', (name, content, kind) => expect(kindOfFile(name, content)).toBe(kind));

  it('is never lost to a crash, and text cut within a letter is still text', () => {
    fc.assert(fc.property(fc.string(), fc.uint8Array(), (name, content) => {
      const kind = kindOfFile(name, content);
      expect(kind === undefined || FILE_KINDS.includes(kind)).toBe(true);
    })); // prettier-ignore
    expect(kindOfFile('log', bytes('warm µ').slice(0, -1))).toBe('report');
  });

  it('has a place, which some have only beside an open machine', () => {
    for (const kind of FILE_KINDS) expect(FILE_PLACES[kind].at('plover')).toMatch(/^\/(machines\/plover\/.*)?$/);
    const alone = FILE_KINDS.filter((kind) => FILE_PLACES[kind].at(undefined) !== undefined);
    expect(alone).toEqual(['machine', 'board', 'chip', 'part', 'archive', 'report']);
  }); // prettier-ignore
});
