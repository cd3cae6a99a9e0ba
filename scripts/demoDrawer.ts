// Writes the old images in the demo's drawer: invented bytes with a vector that fits their chip, the same every time.
// npx tsx scripts/demoDrawer.ts
import { writeFileSync } from 'node:fs';
import { fromBase64, toBase64 } from '../packages/core/src/bytes/base64';
import { toHex } from '../packages/core/src/bytes/intelHex';
import { toUf2 } from '../packages/core/src/bytes/uf2';

/** A small generator with a seed, so that the files never change by themselves. */
function bytesFrom(seed: number, length: number): Uint8Array {
  let state = seed;
  return Uint8Array.from({ length }, (_, index) => {
    state = (Math.imul(state, 1103515245) + 12345) >>> 0;
    // Code is not noise: runs and repeats, as a compiler leaves them.
    return index % 7 === 0 ? 0 : (state >>> 20) & 0xff;
  });
}

function words(bytes: Uint8Array, ...values: [number, 2 | 4][]): Uint8Array {
  const view = new DataView(bytes.buffer);
  let at = 0;
  for (const [value, size] of values) {
    if (size === 2) view.setUint16(at, value, true);
    else view.setUint32(at, value, true);
    at += size;
  }
  return bytes;
}

const drawer = (path: string) => new URL(`../catalogue/demo/drawer/${path}`, import.meta.url);
const hexAt = (bytes: Uint8Array, address: number) => toHex({ base64: toBase64(bytes), address }).text;

/** Where flash and RAM of the chips begin, and where a board's images begin in it: see catalogue/chips and boards. */
const FLINT = { flash: 8192, load: 4096 };
const MICA = { flash: 436207616, ram: 1006632960, load: 16384 };
const SHALE = { flash: 226492416, ram: 1006632960, load: 8192 };

// Plover's old board: entry vector, code, then a gap and the maker's tables, as factory files have them.
const start = FLINT.flash + FLINT.load;
const code = words(bytesFrom(8, 9840), [start + 64, 2]);
const tables = bytesFrom(9, 512);
const upper = hexAt(code, start).replace(/:00000001FF\s*$/, '');
writeFileSync(drawer('plover/plover-f8-maker.hex'), `${upper.trimEnd()}\n${hexAt(tables, start + 12288)}\n`);

writeFileSync(
  drawer('bittern/bittern-h6-maker.bin'),
  words(bytesFrom(32, 18432), [MICA.ram + 30000, 4], [MICA.flash + MICA.load + 401, 4]),
);

const sedge = words(bytesFrom(4, 11000), [SHALE.ram + 12000, 4], [SHALE.flash + SHALE.load + 257, 4]);
writeFileSync(
  drawer('dunlin/dunlin-s4-maker.uf2'),
  fromBase64(
    toUf2({ base64: toBase64(sedge), address: SHALE.flash + SHALE.load, family: 0x5ed6e001 }).base64,
  ),
);
