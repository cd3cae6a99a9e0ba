import type { Kept } from '@jolly/contract/endpoints/kept';
import { describe, expect, it } from 'vitest';
import { keptReport } from '../src/job/keptReport';

const kept = (id: number, kind: Kept['kind'], board: Kept['board']) => ({ id, kind, board }) as Kept;
const alder = { id: 'alder-a32', revision: '1.1' };
const machine = (copy?: number) => ({ board: { ...alder, ...(copy !== undefined && { copy }) } });
const all = [
  kept(5, 'dump', { id: 'fenwick-f8', revision: '2' }),
  kept(4, 'image', alder),
  kept(3, 'dump', { ...alder, copy: 2 }),
  kept(2, 'dump', alder),
  kept(1, 'dump', alder),
];

describe('the settings report of the board that is at hand', () => {
  it.each([
    ['is the newest of that board, whatever was kept of others since', machine(), 2],
    ['is another one where the board was replaced by its like', machine(2), 3],
    ['is none where only others were kept', machine(3), undefined],
  ])('%s', (_what, of, id) => {
    expect(keptReport({ kept: all }, of)?.id).toBe(id);
  });
  it('is none while nothing is known', () => {
    expect(keptReport(undefined, machine())).toBeUndefined();
  });
});
