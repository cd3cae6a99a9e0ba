import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromBase64, toBase64 } from '../src/bytes/base64';
import { toUf2 } from '../src/bytes/uf2';
import { chipOf } from '../src/catalogue/catalogue';
import { imageAs } from '../src/image/imageAs';
import { readImageFile } from '../src/image/imageFile';
import { flashContent } from '../src/image/plausible';
import { makeImage } from '../src/image/imageHeader';
import { installed } from './fixtures/demo';

const { catalogue } = installed;

describe('an image as a file', () => {
  it.each(catalogue.boards.map((board) => [`${board.id} ${board.revision}`, board] as const))(
    'of %s: any code, in every format, lies where the board looks for it',
    (_name, board) => {
      const chip = chipOf(catalogue, board);
      if (!chip) throw new Error('no chip');
      const [{ load_address: loadAddress, target }] = board.routes;
      fc.assert(
        fc.property(fc.uint8Array({ minLength: 1, maxLength: 3000 }), (code) => {
          const image = makeImage({ kitVersion: '0.1.0', target, loadAddress, buildId: 'ab12cd34', name: 'Knot' }, code); // prettier-ignore
          for (const format of ['hex', 'uf2'] as const) {
            const file = imageAs(format, image, board, chip);
            const read = readImageFile(file);
            expect(read).toMatchObject({ format });
            if ('problem' in read) throw new Error(read.problem);
            expect(read.family).toBe(format === 'uf2' ? chip.uf2_family : undefined);
            expect(read.segments[0]?.address).toBe(chip.flash_at + loadAddress);
            const { bytes = new Uint8Array() } = read.segments[0] ?? {};
            expect(bytes.subarray(0, image.length)).toEqual(image);
            // Whole blocks at whole addresses, what is more being 0xFF; read again, it is the same image.
            if (format === 'uf2')
              expect([bytes.length % 256, (read.segments[0]?.address ?? 1) % 256]).toEqual([0, 0]);
            expect(bytes.subarray(image.length).every((byte) => byte === 0xff)).toBe(true);
            expect(flashContent(read, board, chip)).toEqual({ bytes: image });
          }
          expect(imageAs('bin', image, board, chip)).toBe(image);
        }),
        { numRuns: 20 },
      );
    },
  );
  it('ends a HEX text with the end of its last line', () => {
    const [board] = catalogue.boards;
    const chip = chipOf(catalogue, board);
    if (!board || !chip) throw new Error('no board');
    const text = new TextDecoder().decode(imageAs('hex', Uint8Array.from([1, 2, 3]), board, chip));
    expect(text.endsWith(':00000001FF\n')).toBe(true);
  });
  it('blocks for another family are refused; blocks for none are not', () => {
    const board = catalogue.boards.find(({ chip }) => chip === 'mica-c');
    const chip = chipOf(catalogue, board);
    if (!board || !chip) throw new Error('no board');
    const bytes = { base64: toBase64(Uint8Array.from([1, 2, 3])), address: chip.flash_at + board.routes[0].load_address }; // prettier-ignore
    const content = (family?: number) => {
      const read = readImageFile(
        fromBase64(toUf2({ ...bytes, ...(family !== undefined && { family }) }).base64),
      );
      if ('problem' in read) throw new Error(read.problem);
      return flashContent(read, board, chip);
    };
    expect(content(12345)).toMatchObject({ refused: expect.stringContaining('family') as unknown });
    expect(content()).toHaveProperty('bytes');
    expect(content(chip.uf2_family)).toHaveProperty('bytes');
  });
  it('one that runs past the flash is not handed out', () => {
    const [board] = catalogue.boards;
    const chip = chipOf(catalogue, board);
    if (!board || !chip) throw new Error('no board');
    expect(() => imageAs('hex', new Uint8Array(chip.flash_bytes + 4096), board, chip)).toThrow('cannot be read back'); // prettier-ignore
  });
});
