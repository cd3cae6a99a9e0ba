import type { Header } from '@jolly/core/board/board';
import { describe, expect, it } from 'vitest';
import { type CanvasActs, type Chosen, keyed } from '../src/stations/boards/canvasKeys';

const header = (id: string, contacts: string[]): Header => ({
  id,
  at_mm: { x: 10, y: 20 },
  runs: 'right',
  family: 'pin strip',
  pitch_mm: 2.54,
  contacts,
});
const HEADERS = [header('J1', ['gnd', 'sig:P1', '5v']), header('J2', ['gnd'])];
type Key = Partial<Parameters<typeof keyed>[0]> & { key: string };

/** What a key did, and whether it stood for anything. */
function press(key: Key, chosen: Chosen | undefined) {
  const did: unknown[] = [];
  const note =
    (name: string) =>
    (...what: unknown[]) =>
      void did.push([name, ...what]);
  const acts: CanvasActs = {
    onChoose: note('choose'),
    onHeader: note('header'),
    onCopy: note('copy'),
    onNet: note('net'),
    onNext: note('next'),
  };
  const plain = { ctrlKey: false, metaKey: false, shiftKey: false, altKey: false };
  return { took: keyed({ ...plain, ...key }, HEADERS, chosen, acts), did };
}

describe('keys on the drawing of a board', () => {
  it.each([
    ['right', { key: 'ArrowRight' }, { x: 10.5, y: 20 }],
    ['back, far', { key: 'ArrowUp', shiftKey: true }, { x: 10, y: 25 }],
    ['left, by a hair', { key: 'ArrowLeft', altKey: true }, { x: 9.9, y: 20 }],
  ])('move a header %s', (_way, key, at_mm) => {
    expect(press(key, { header: 0 })).toEqual({ took: true, did: [['header', 0, { at_mm }]] });
  });

  it('step through headers, round the end, from either side when none is chosen', () => {
    expect(press({ key: 'PageDown' }, undefined).did).toEqual([['choose', { header: 0, contact: 0 }]]);
    expect(press({ key: 'PageUp' }, undefined).did).toEqual([['choose', { header: 1, contact: 0 }]]);
    expect(press({ key: 'PageDown' }, { header: 1 }).did).toEqual([['choose', { header: 0, contact: 0 }]]);
  });

  it('step through contacts and stay at the last and the first', () => {
    expect(press({ key: '.' }, { header: 0, contact: 1 }).did).toEqual([
      ['choose', { header: 0, contact: 2 }],
    ]);
    expect(press({ key: '.' }, { header: 1, contact: 0 }).did).toEqual([
      ['choose', { header: 1, contact: 0 }],
    ]);
    expect(press({ key: ',' }, { header: 0 }).did).toEqual([['choose', { header: 0, contact: 0 }]]);
  });

  it('name the chosen contact: a net, or the next pin', () => {
    const at = { header: 0, contact: 1 };
    expect(press({ key: '3' }, at).did).toEqual([['net', at, '3v3']]);
    expect(press({ key: 's' }, at).did).toEqual([['next', at, 'sig']]);
    expect(press({ key: 'w' }, at).did).toEqual([['next', at, 'sw']]);
  });

  it('leave alone what is not theirs: nothing chosen, a shortcut of the browser, a key of no meaning', () => {
    for (const [key, chosen] of [
      [{ key: 'ArrowRight' }, undefined],
      [{ key: 'r' }, { header: 7 }],
      [{ key: 'c', ctrlKey: true }, { header: 0 }],
      [{ key: 'q' }, { header: 0 }],
      [{ key: 'toString' }, { header: 0 }],
    ] as const)
      expect(press(key, chosen)).toEqual({ took: false, did: [] });
  });
});
