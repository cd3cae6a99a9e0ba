import type { FlashRoute } from '@jolly/core/board/route';
import type { BoardAndChip } from '@jolly/core/board/withoutBootloader';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import { fromBase64, toBase64 } from '@jolly/core/bytes/base64';
import { toUf2 } from '@jolly/core/bytes/uf2';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boards, imageFor, routed, sold, withLoader } from './fixtures/soldBoards';
import {
  blankBoard, bootable, bootloaderEnds, bootloaderOf, type BoardState, type FlashJob, flashing, flashMemory, type FlashProgress, hasBootloader, type Table,
} from '../src/index'; // prettier-ignore
import { driveListener, GONE, LEFT_ALONE } from '../src/flashing/driveTalk';

const routeOf = ({ board }: BoardAndChip, kind: string) => board.routes.find((route) => route.kind === kind)!;

const table = (of: BoardAndChip, state: BoardState, changes: Partial<Table> = {}): Table => ({
  sold: of,
  loader: hasBootloader(state, of.board),
  portHeld: false,
  toolFails: false,
  wiresExchanged: false,
  ...changes,
});
const job = (route: FlashRoute, bytes: Uint8Array, changes: Partial<FlashJob> = {}): FlashJob => ({
  route,
  does: 'write',
  name: 'test.bin',
  bytes,
  at: route.load_address,
  ...changes,
});

/** Runs a job, or leaves it when `cut` says so; what it came to, what is left, what was told. */
function run(of: BoardAndChip, state: BoardState, what: FlashJob, changes: Partial<Table> = {}, cut: (pages: number) => boolean = () => false) {
  const memory = flashMemory(state, of);
  const going = flashing(what, memory, table(of, state, changes));
  const told: FlashProgress[] = [];
  let outcome: CardOutcome | undefined;
  for (let step = going.next(); ; step = going.next()) {
    if (step.done) outcome = step.value;
    else told.push(step.value);
    if (step.done || cut(memory.written())) break;
  }
  return { outcome, told, pages: memory.written(), left: memory.left(what) };
} // prettier-ignore

const code = fc.uint8Array({ minLength: 1, maxLength: 3000 });

describe('each route of each board', () => {
  it.each(routed)('%s: what is sent is what the board then starts', (_name, of, route) => {
    fc.assert(
      fc.property(code, (bytes) => {
        const image = imageFor(of, bytes);
        const { outcome, left, told } = run(of, withLoader(of), job(route, image));
        expect(outcome).toEqual({ taken: true, name: 'test.bin' });
        expect(left.image).toEqual(image);
        expect(bootable(left, of.board)).toHaveProperty('code', bytes);
        expect(told.at(-1)!.atS).toBeGreaterThan(0);
      }),
      { numRuns: 12 },
    );
  });
  it.each(routed)('%s: cut at any page it is silent, and the same route mends it', (_name, of, route) => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 4000, maxLength: 5000 }), fc.nat(), (bytes, number) => {
        const image = imageFor(of, bytes);
        const before = withLoader(of);
        const { pages } = run(of, before, job(route, image));
        const at = 1 + (number % Math.max(1, pages - 1));
        const half = run(of, before, job(route, image), {}, (written) => written >= at);
        expect(half.outcome).toBeUndefined();
        // What is missing may be as an erased flash is: then it is whole, and that alone may start.
        const starts = bootable(half.left, of.board);
        if (!('silent' in starts)) expect(starts.code).toEqual(bytes);
        expect(hasBootloader(half.left, of.board)).toBe(true);
        const again = run(of, half.left, job(route, image));
        expect(again.outcome).toMatchObject({ taken: true });
        expect(again.left.image).toEqual(image);
      }),
      {
        numRuns: 8,
        // The last page of each board holds one byte, and that is as if erased.
        examples: [3, 7, 15, 31].map((number) => [new Uint8Array(4001).fill(7).fill(255, 4000), number]),
        endOnFailure: true,
      },
    );
  });
  it.each(routed)('%s: trying writes nothing', (_name, of, route) => {
    const before = withLoader(of);
    const { outcome, left, pages } = run(of, before, job(route, imageFor(of, new Uint8Array(9)), { does: 'try' }));
    expect(outcome).toMatchObject({ taken: true });
    expect(pages).toBe(0);
    expect(left).toMatchObject({ image: before.image, bootloader: before.bootloader });
  }); // prettier-ignore
  it.each(routed)('%s: a tool that reports an error although it worked is told apart', (_name, of, route) => {
    const image = imageFor(of, new Uint8Array(300));
    const { outcome, left } = run(of, withLoader(of), job(route, image), { toolFails: true });
    expect(outcome).toMatchObject({ taken: true, toolSaid: expect.stringContaining('failed') as string });
    expect(left.image).toEqual(image);
  });
});

describe('a route that finds nobody', () => {
  const f8 = sold('fenwick-f8');
  const serial = routeOf(f8, 'serial');
  const image = imageFor(f8, new Uint8Array(50));
  const cases: [string, FlashRoute, BoardAndChip, Partial<Table>, string][] = [
    ['no bootloader', serial, f8, { loader: false }, 'no answer'],
    ['another speed', serial, f8, { hostBaud: 115200 }, 'no answer'],
    ['the port held', serial, f8, { portHeld: true }, 'port held'],
    ['six wires exchanged', routeOf(f8, 'programmer'), f8, { wiresExchanged: true }, 'no answer'],
    ['three wires exchanged', routeOf(sold('alder-a32'), 'probe'), sold('alder-a32'), { wiresExchanged: true }, 'no answer'],
    ['no loader for a drive', routeOf(sold('sedge-s4'), 'drive'), sold('sedge-s4'), { loader: false }, 'no answer'],
    ['no loader for an update', routeOf(sold('alder-a32'), 'update-class'), sold('alder-a32'), { loader: false }, 'no answer'],
  ]; // prettier-ignore
  it.each(cases)('%s: says so, and leaves the flash as it was', (_name, route, of, changes, reason) => {
    const before = { ...withLoader(of), image };
    const { outcome, left, pages } = run(of, before, job(route, image), changes);
    expect(outcome).toMatchObject({ taken: false, reason });
    expect(pages).toBe(0);
    expect(left.image).toEqual(image);
  });
  it('a tool does not write to a chip that says another signature', () => {
    const other = { ...f8, chip: { ...f8.chip, programming: { signature: 'abcdef', page_bytes: 64 } } };
    const going = flashing(job(serial, image), flashMemory(withLoader(f8), f8), table(other, withLoader(f8)));
    let step = going.next();
    while (!step.done) step = going.next();
    expect(step.value).toMatchObject({ taken: false, reason: 'other chip' });
  });
});

describe('a bootloader', () => {
  const bare = boards.find(({ board }) => board.sold_bare)!;
  const programmer = routeOf(bare, 'programmer');
  const install = (of: BoardAndChip, route: FlashRoute) =>
    job(route, bootloaderOf(of.board), { does: 'bootloader', at: 0 });

  it('is installed by wires where there is none, and the serial route answers then', () => {
    const before = blankBoard(bare.chip);
    expect(hasBootloader(before, bare.board)).toBe(false);
    const { outcome, left } = run(bare, before, install(bare, programmer));
    expect(outcome).toMatchObject({ taken: true });
    expect(hasBootloader(left, bare.board)).toBe(true);
    expect(left.locked).toBe(true);
    const image = imageFor(bare, new Uint8Array(500));
    expect(run(bare, left, job(routeOf(bare, 'serial'), image)).left.image).toEqual(image);
  });
  it('cut half way leaves a board that starts nothing, and the wires mend it', () => {
    const long = { ...bare, chip: { ...bare.chip, programming: { signature: '71a40d', page_bytes: 16 } } };
    const half = run(long, blankBoard(long.chip), install(long, programmer), {}, (pages) => pages === 1);
    expect(hasBootloader(half.left, long.board)).toBe(false);
    expect(bootable(half.left, long.board)).toHaveProperty('silent');
    expect(hasBootloader(run(long, half.left, install(long, programmer)).left, long.board)).toBe(true);
  });
  it('makes room for an image that begins at the start, and comes back over it', () => {
    for (const of of [bare, sold('alder-a32')]) {
      const wired = of.board.routes.find(({ kind }) => kind === 'programmer' || kind === 'probe')!;
      const image = imageFor(of, new Uint8Array(bootloaderEnds(of.board) + 800), 0);
      const { outcome, left } = run(of, withLoader(of), job(wired, image, { at: 0 }));
      expect(outcome).toMatchObject({ taken: true });
      expect(left).toMatchObject({ fromStart: true });
      expect(left.image).toEqual(image);
      expect(bootable(left, of.board)).toHaveProperty('code');
      expect(hasBootloader(left, of.board)).toBe(false);
      const back = run(of, left, install(of, wired)).left;
      expect(hasBootloader(back, of.board)).toBe(true);
      expect(back.fromStart).toBeUndefined();
    }
  });
  it('unlocking erases everything where the chip does that, stored settings too', () => {
    const of = sold('sedge-s4');
    const before = { ...withLoader(of), image: imageFor(of, new Uint8Array(700)), store: new Uint8Array(1024).fill(7) }; // prettier-ignore
    const { left } = run(of, before, install(of, routeOf(of, 'probe')));
    expect(left.image).toBeNull();
    expect(left.store.every((byte) => byte === 0xff)).toBe(true);
    const kept = run(of, before, job(routeOf(of, 'probe'), imageFor(of, new Uint8Array(30)))).left;
    expect(kept.store).toEqual(before.store);
  });
  it('never writes over itself, whatever address it is told', () => {
    const of = sold('harrow-h6');
    const { outcome, left } = run(of, withLoader(of), job(routeOf(of, 'serial'), new Uint8Array(600), { at: 0 }));
    expect(outcome).toMatchObject({ taken: false, reason: 'locked' });
    expect(hasBootloader(left, of.board)).toBe(true);
  }); // prettier-ignore
  it('an image whose target or address is another lies there, and nothing starts', () => {
    const of = sold('alder-a32');
    const wrong = imageFor(of, new Uint8Array(100), 0x100);
    const { outcome, left } = run(of, withLoader(of), job(routeOf(of, 'probe'), wrong));
    expect(outcome).toMatchObject({ taken: true });
    expect(bootable(left, of.board)).toMatchObject({ silent: 'the image begins at another address' });
  });
});

describe('a drive', () => {
  it('leaves blocks for another family alone, and what is no block', () => {
    const of = sold('sedge-s4');
    const memory = flashMemory(withLoader(of), of);
    const listener = driveListener(memory, of.chip.flash_at, 1);
    const address = of.chip.flash_at + bootloaderEnds(of.board);
    const file = (family: number) =>
      fromBase64(toUf2({ base64: toBase64(new Uint8Array(900)), address, family }).base64);
    const copy = (bytes: Uint8Array) => [...bytes].flatMap((byte) => listener.hear(byte));
    expect(copy(file(2))).toEqual([LEFT_ALONE, LEFT_ALONE, LEFT_ALONE, LEFT_ALONE]);
    expect(copy(new Uint8Array(512))).toEqual([LEFT_ALONE]);
    expect(memory.written()).toBe(0);
    expect(copy(file(1)).at(-1)).toBe(GONE);
  });
});

describe('a flash', () => {
  it.each(boards.map((of): [string, BoardAndChip] => [`${of.board.id} ${of.board.revision}`, of]))(
    '%s takes its last page, and nothing behind or before its ends',
    (_, of) => {
      const memory = flashMemory({ ...blankBoard(of.chip), locked: false }, of);
      const size = bootloaderEnds(of.board) + of.chip.flash_bytes;
      const page = new Uint8Array(memory.pageBytes);
      expect(memory.write(size - page.length, page)).toBe(true);
      expect(memory.write(size - page.length + 1, page)).toBe(false);
      expect(memory.erase(size - 1)).toBe(true);
      expect(memory.erase(size)).toBe(false);
      expect(memory.write(-1, page)).toBe(false);
    },
  );
});
