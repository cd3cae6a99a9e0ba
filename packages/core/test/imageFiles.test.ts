import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CalcError } from '../src/calculation/calculation';
import { LARGEST_IMAGE, readImageFile } from '../src/image/imageFile';
import { calculations } from '../src/calc/calculations';
import { firstOutside, laidInto } from '../src/bytes/segments';
import { imageRecord } from '../src/checks/imageRecord';
import { flashContent, plausible } from '../src/image/plausible';
import type { Facts } from '../src/machine/facts';
import { fromBase64, toBase64 } from '../src/bytes/base64';
import { fromHex, readHex, toHex } from '../src/bytes/intelHex';
import { fromUf2, toUf2 } from '../src/bytes/uf2';
import { makeImage } from '../src/image/imageHeader';
import { type KeptThing, wayBackFindings } from '../src/image/wayBack';
import { demoMachine, factsOf, installed } from './fixtures/demo';
import { drawer, ploverJob } from './fixtures/job';

const errorOf = (act: () => unknown) => {
  try {
    act();
  } catch (error) {
    if (error instanceof CalcError) return error.message;
    throw error;
  }
  return 'no error';
};
const someBytes = fc.uint8Array({ minLength: 0, maxLength: 2000 });

describe('Intel HEX', () => {
  it('round trips exactly, at any address', () => {
    fc.assert(
      fc.property(someBytes, fc.nat({ max: 2 ** 32 - 2001 }), (bytes, address) => {
        const { text } = toHex({ base64: toBase64(bytes), address });
        const { segments } = fromHex({ text });
        expect(segments).toEqual(bytes.length ? [{ address, base64: toBase64(bytes) }] : []);
      }),
      { numRuns: 200 },
    );
  });
  it('keeps gaps as segments, in rising order', () => {
    const text = ':0400100001020304E2\r\n:04000000AABBCCDDEE\n:00000001FF\n';
    expect(fromHex({ text }).segments.map((segment) => segment.address)).toEqual([0, 16]);
  });
  it.each([
    [
      'a wrong checksum',
      ':0400000001020304F2\n:040010000102030499\n:00000001FF',
      'line 2: the checksum is wrong',
    ],
    [
      'a wrong length',
      ':0400000001020304F2\n\n:0500100001020304E2\n:00000001FF',
      'line 3: the record is longer or shorter',
    ],
    ['an overlap', ':0400000001020304F2\n:04000200010203 04F0\n', 'line 2: expected a record'],
    [
      'bytes given twice',
      ':0400000001020304F2\n:0400020001020304F0\n:00000001FF',
      'line 2: bytes that an earlier line already gave',
    ],
    ['no end', ':0400000001020304F2', 'line 1: the end record'],
    ['something else', 'hello', 'line 1: expected a record'],
  ])('%s is an error with its line', (_what, text, message) => {
    expect(errorOf(() => fromHex({ text }))).toContain(message);
  });
  it('refuses what would run past the top', () => {
    expect(errorOf(() => toHex({ base64: 'AAAA', address: 2 ** 32 - 2 }))).toContain('below 4 GB');
  });
  it('any text is read or refused, never more', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(...':0123456789ABCDEF\n\r ') }),
        (text) => void errorOf(() => readHex(text)),
      ),
      { numRuns: 500 },
    );
  });
});

describe('UF2', () => {
  it('round trips exactly, with and without a family', () => {
    fc.assert(
      fc.property(
        someBytes,
        fc.nat({ max: 2 ** 32 - 2001 }),
        fc.option(fc.nat()),
        (bytes, address, family) => {
          const { base64 } = toUf2({ base64: toBase64(bytes), address, ...(family !== null && { family }) });
          const back = fromUf2({ base64 });
          expect(back.segments).toEqual(bytes.length ? [{ address, base64: toBase64(bytes) }] : []);
          if (bytes.length) expect(back.family).toBe(family ?? undefined);
        },
      ),
      { numRuns: 200 },
    );
  });
  const file = (family?: number, address = 0) =>
    fromBase64(
      toUf2({ base64: toBase64(new Uint8Array(600).fill(7)), address, ...(family && { family }) }).base64,
    );
  const broken = (change: (bytes: Uint8Array, view: DataView) => void) => {
    const bytes = file(5);
    change(bytes, new DataView(bytes.buffer));
    return errorOf(() => fromUf2({ base64: toBase64(bytes) }));
  };
  it('names the block that is wrong', () => {
    expect(broken((bytes) => void (bytes[512] = 0))).toContain('block 2: is not a UF2 block');
    expect(broken((_bytes, view) => view.setUint32(1024 + 28, 6, true))).toContain(
      'block 3: is for family 0x6',
    );
    expect(broken((_bytes, view) => view.setUint32(512 + 12, 10, true))).toContain(
      'block 2: bytes that an earlier block',
    );
    expect(broken((_bytes, view) => view.setUint32(512 + 16, 500, true))).toContain(
      'block 2: claims more bytes',
    );
    expect(broken((_bytes, view) => view.setUint32(512 + 20, 7, true))).toContain(
      'block 2: says it is number 8 of 3',
    );
    expect(errorOf(() => fromUf2({ base64: toBase64(file().subarray(0, 700)) }))).toContain(
      'block 2: has 188 bytes',
    );
  });
  it('is reachable from the command line, like its sisters', () => {
    for (const name of ['toHex', 'fromHex', 'toUf2', 'fromUf2', 'parseDump'])
      expect(calculations.has(name)).toBe(true);
  });
});

describe('an image file', () => {
  const read = (bytes: Uint8Array) => {
    const file = readImageFile(bytes);
    if ('problem' in file) throw new Error(file.problem);
    return file;
  };
  const old = factsOf(ploverJob().before);
  const plover = factsOf(demoMachine('plover'));
  it('is known by what is in it; the maker’s images fit their boards', () => {
    for (const [path, format, facts] of [
      ['plover/plover-f8-maker.hex', 'hex', old],
      ['bittern/bittern-h6-maker.bin', 'bin', factsOf(demoMachine('bittern'))],
      ['dunlin/dunlin-s4-maker.uf2', 'uf2', factsOf(demoMachine('dunlin'))],
    ] as const) {
      const file = read(new Uint8Array(drawer(path)));
      expect(file.format).toBe(format);
      expect(plausible(file, facts.board, facts.chip).verdict).toBe('fits');
    }
    expect(read(new Uint8Array(drawer('plover/plover-f8-maker.hex'))).segments).toHaveLength(2);
  });
  it('of another board is doubtful, and says why', () => {
    const file = read(new Uint8Array(drawer('bittern/bittern-h6-maker.bin')));
    const judged = plausible(file, old.board, { ...old.chip, flash_bytes: 12_288 });
    expect(judged).toMatchObject({ verdict: 'doubtful' });
    expect(judged.evidence[0]).toMatch(/bytes; the flash of Flint-B holds|not in the flash/);
  });
  it('of somebody else that ends before the place it starts at was cut short, and is no way back', () => {
    const { board, chip } = factsOf(demoMachine('bittern'));
    const whole = new Uint8Array(drawer('bittern/bittern-h6-maker.bin'));
    const entry = new DataView(whole.buffer, whole.byteOffset).getUint32(4, true) & ~1;
    const starts = entry - chip.flash_at - board.routes[0].load_address;
    expect(starts).toBeGreaterThan(8);
    for (const length of [8, starts]) {
      const { verdict, evidence } = plausible(read(whole.subarray(0, length)), board, chip);
      expect([length, verdict, evidence[0]]).toEqual([
        length,
        'doubtful',
        expect.stringMatching(/cut short$/),
      ]);
    }
    expect(plausible(read(whole.subarray(0, starts + 1)), board, chip).verdict).toBe('fits');
  });
  it('with our header is judged by target and address', () => {
    const header = {
      kitVersion: '0.1.0',
      target: 'alder-a32-1-1',
      loadAddress: 32768,
      buildId: 'abcd',
      name: 'P',
    };
    const judge = (part: Partial<typeof header>) =>
      plausible(
        {
          format: 'bin',
          segments: [{ address: 0, bytes: makeImage({ ...header, ...part }, new Uint8Array(40)) }],
        },
        plover.board,
        plover.chip,
      );
    expect(judge({})).toMatchObject({ verdict: 'fits', header: { buildId: 'abcd' } });
    expect(judge({ target: 'fenwick-f8-2' }).evidence[0]).toContain('its header is for fenwick-f8-2');
    expect(judge({ loadAddress: 0 }).evidence[0]).toContain('begins at 0x0');
  });
  describe('with our header, and not whole', () => {
    const ours = (facts: Facts, bytes = 4000) => {
      const { target, load_address } = facts.board.routes[0];
      return makeImage({ kitVersion: '0.1.0', target, loadAddress: load_address, buildId: 'abcd', name: 'P' }, new Uint8Array(bytes).fill(7)); // prettier-ignore
    };
    const judge = (facts: Facts, bytes: Uint8Array) => plausible(read(bytes), facts.board, facts.chip);
    const changedAt = (bytes: Uint8Array, at: number) =>
      bytes.map((byte, index) => byte ^ (index === at ? 1 : 0));
    it.each([
      ['an 8-bit chip', old],
      ['a 32-bit chip', plover],
    ])('never fits %s', (_name, facts) => {
      const whole = ours(facts);
      expect(judge(facts, whole).verdict).toBe('fits');
      for (const [broken, words] of [
        [whole.subarray(0, -1), 'cut short'],
        [changedAt(whole, whole.length - 9), 'its code is damaged'],
        [changedAt(whole, 60), 'its header is damaged'],
      ] as const) {
        const { verdict, evidence } = judge(facts, broken);
        expect(verdict).toBe('doubtful');
        expect(evidence.join(' ')).toContain(words);
        expect(evidence.join(' ')).not.toContain('foreign');
      }
    });
    it('is not foreign for being too large', () => {
      const judged = judge(old, ours(old, old.chip.flash_bytes));
      expect(judged).toMatchObject({ verdict: 'doubtful', header: { buildId: 'abcd' } });
      expect(judged.evidence[0]).toContain('the flash of Flint-B holds');
      const address = old.chip.flash_at + old.board.routes[0].load_address;
      const { text } = toHex({ base64: toBase64(ours(old, old.chip.flash_bytes)), address });
      const asHex = judge(old, new TextEncoder().encode(text));
      expect(asHex).toMatchObject({ verdict: 'doubtful', header: { buildId: 'abcd' } });
      expect(asHex.evidence.join(' ')).not.toContain('cut short');
      const { against } = imageRecord('it', ours(old, old.chip.flash_bytes), old.board, old.chip);
      expect(against).toEqual([judged.evidence[0]]);
    });
  });
  it('that is erased, empty or too large is told so', () => {
    expect(plausible(read(new Uint8Array(64).fill(0xff)), old.board, old.chip).verdict).toBe('empty');
    expect(readImageFile(new Uint8Array())).toEqual({ problem: 'the file is empty (0 bytes)' });
    expect(readImageFile(new Uint8Array(LARGEST_IMAGE + 1))).toMatchObject({
      problem: expect.stringContaining('16 MB') as string,
    });
  });
  it('of any bytes is read or refused', () => {
    const starts = fc.constantFrom(
      ...['', ':', 'UF2\n', ':10'].map((text) => new TextEncoder().encode(text)),
    );
    fc.assert(
      fc.property(starts, fc.uint8Array({ maxLength: 1500 }), (start, rest) => {
        const file = readImageFile(new Uint8Array([...start, ...rest]));
        if (!('problem' in file)) plausible(file, old.board, old.chip);
      }),
      { numRuns: 300 },
    );
  });
  it('is laid into an erased memory, and what lies outside is left away', () => {
    const segments = [
      { address: 4, bytes: new Uint8Array([1, 2]) },
      { address: 8, bytes: new Uint8Array([3, 4]) },
      { address: 2 ** 32 - 4, bytes: new Uint8Array([5]) },
    ];
    expect([...laidInto(segments, { at: 5, bytes: 4 })]).toEqual([2, 0xff, 0xff, 3]);
    expect(firstOutside(segments, { at: 4, bytes: 6 })).toBe(2 ** 32 - 4);
    expect(firstOutside(segments.slice(0, 2), { at: 4, bytes: 6 })).toBeUndefined();
    expect(firstOutside(segments.slice(0, 2), { at: 4, bytes: 5 })).toBe(9);
    expect(firstOutside([{ address: 4, bytes: new Uint8Array(7) }], { at: 4, bytes: 6 })).toBe(10);
    // Nothing lies nowhere.
    expect(firstOutside([{ address: 0, bytes: new Uint8Array(0) }], { at: 4, bytes: 5 })).toBeUndefined();
  });
  it('with four bytes at the top of the address space is judged at once, and what lies outside is said', () => {
    const text = toHex({ base64: 'AAAAAA==', address: 0xfffffff0 }).text;
    const file = readImageFile(new TextEncoder().encode(text));
    if ('problem' in file) throw new Error(file.problem);
    const judged = plausible(file, old.board, old.chip);
    expect(judged.verdict).toBe('doubtful');
    expect(judged.evidence[0]).toContain('bytes at 0xfffffff0, outside the flash of');
    expect(flashContent(file, old.board, old.chip)).toHaveProperty('refused');
  });
});

describe('keep.no-way-back', () => {
  it('stops until an image is kept, or it is waived in words', () => {
    const board = { id: 'fenwick-f8', name: 'Fenwick F8', revision: '2' };
    const thing = (part: Partial<KeptThing>): KeptThing => ({
      kind: 'image',
      verdict: 'fits',
      board,
      ...part,
    });
    const said = (part: Partial<KeptThing>) =>
      wayBackFindings(board, { kept: [thing(part)], catalogue: installed.catalogue })[0];
    expect(said({ kind: 'dump' })).toMatchObject({ id: 'keep.no-way-back', severity: 'stop' });
    expect(said({})).toBeUndefined();
    expect(
      wayBackFindings(board, {
        kept: [],
        waived: 'the board was dead anyway',
        catalogue: installed.catalogue,
      }),
    ).toEqual([]);
    // Neither an erased flash, nor a doubtful image, nor one of another board brings this board back.
    expect(said({ verdict: 'empty' })!.evidence).toEqual([expect.stringContaining('erased') as string]);
    expect(said({ verdict: 'doubtful' })!.evidence[0]).toContain('doubtful');
    expect(said({ board: { id: 'alder-a32', revision: '1.1' } })!.evidence).toEqual([
      'an image of Alder A32 rev 1.1 is kept; that is another board',
    ]);
    expect(said({ board: { id: 'gone', revision: '3' } })!.evidence[0]).toContain('an image of gone rev 3');
    expect(said({ board: { ...board, revision: '1' } })).toBeDefined();
  });
});
