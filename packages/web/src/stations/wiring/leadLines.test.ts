import type { Board } from '@jolly/core/board/board';
import type { Landing } from '@jolly/core/machine/landing';
import type { RankedLanding } from '@jolly/core/harness/rankLandings';
import { describe, expect, it } from 'vitest';
import { curve, endPoint, placeOf } from './leadLines';
import { litPlaces } from './litPlaces';

const board = {
  outline_mm: { x: 100, y: 80 },
  headers: [
    { id: 'ROW', at_mm: { x: 10, y: 20 }, runs: 'right', pitch_mm: 2.5, contacts: ['gnd', '5v', 'sig:p1'] },
    { id: 'TALL', at_mm: { x: 50, y: 20 }, runs: 'up', pitch_mm: 5, contacts: ['vin', 'sw:p2'] },
  ],
  sockets: [
    { id: 'M1', at_mm: { x: 20, y: 60 }, motor: { at_mm: { x: 22, y: 50 }, pitch_mm: 2, order: ['a1', 'a2', 'b1', 'b2'] } },
    { id: 'M2', at_mm: { x: 40, y: 60 } },
  ],
} as unknown as Board; // prettier-ignore

describe('where a lead ends', () => {
  it('is its pin contact, with the back edge of the board on top', () => {
    expect(endPoint(board, { leads: { ground: 'ROW.1', signal: 'ROW.3' } })).toEqual({ x: 15, y: 60 });
    expect(endPoint(board, { leads: { supply: 'TALL.1', control: 'TALL.2' } })).toEqual({ x: 50, y: 55 });
  });
  it('is the middle of the motor plug, or the socket where the board does not say', () => {
    expect(endPoint(board, { socket: 'M1' })).toEqual({ x: 25, y: 30 });
    expect(endPoint(board, { socket: 'M2' })).toEqual({ x: 47, y: 20 });
  });
  it('is nowhere for what the board has not', () => {
    const nowhere: (Landing | undefined)[] = [undefined, { socket: 'M9' }, { leads: { signal: 'NONE.1' } }];
    for (const landing of nowhere) expect(endPoint(board, landing)).toBeUndefined();
  });
  it('a curve begins and ends there, whichever way it runs', () => {
    expect(curve({ x: 1, y: 2 }, { x: 51, y: 9 })).toMatch(/^M1\.00 2\.00C.* 51\.00 9\.00$/);
    expect(curve({ x: 51, y: 2 }, { x: 1, y: 9 })).toMatch(/^M51\.00 2\.00C28\.50 2\.00/);
  });
});

describe('what is lit', () => {
  const place = (contact: string, price: number, taken = false): RankedLanding => ({
    landing: { leads: { signal: contact } },
    price,
    lines: [],
    clashes: taken ? [{ part: 'other', what: 'other has it' }] : [],
  });
  it('is the cheapest free landing of each header; a taken one shows only where none is free', () => {
    const { places, best } = litPlaces(
      [place('ROW.3', 4), place('ROW.2', 9), place('TALL.2', 1, true), place('ROW.1', 0, true)],
      undefined,
    );
    expect(places.get('ROW')).toEqual({ word: '4', state: 'free' });
    expect(best.get('ROW')).toEqual({ leads: { signal: 'ROW.3' } });
    expect(places.get('TALL')).toEqual({ word: '', state: 'taken' });
    expect(best.has('TALL')).toBe(false);
  });
  it('the place it has now is told apart', () => {
    const now: Landing = { leads: { supply: 'TALL.1', control: 'TALL.2' } };
    expect(placeOf(now)).toBe('TALL');
    expect(litPlaces([place('TALL.2', 0)], now).places.get('TALL')!.state).toBe('here');
  });
});

describe('a lead and the names of headers', () => {
  const name = { left: 40, right: 48, top: 18, bottom: 22 };
  const plain = curve({ x: 0, y: 20 }, { x: 60, y: 20 });
  it('runs plainly where no name lies in its way', () => {
    expect(curve({ x: 0, y: 20 }, { x: 60, y: 20 }, [])).toBe(plain);
    expect(curve({ x: 0, y: 20 }, { x: 60, y: 20 }, [{ ...name, top: 60, bottom: 64 }])).toBe(plain);
  });
  it('is led round a name in its row, and still begins and ends where it must', () => {
    const round = curve({ x: 0, y: 20 }, { x: 60, y: 20 }, [name]);
    expect(round).not.toBe(plain);
    expect(round).toMatch(/^M0\.00 20\.00C.* 60\.00 20\.00$/);
  });
});
