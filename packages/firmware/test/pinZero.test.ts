import { placedLeads } from '@jolly/core/circuit/pinTable';
import type { Facts } from '@jolly/core/machine/facts';
import { describe, expect, it } from 'vitest';
import { buildFor, flashed, talkTo, type Talk, workshop } from './fixtures/builtMachine';

const plover = workshop();

/** Where a board's file names a pin by its number alone. */
const PINS = new Set(['step', 'dir', 'enable', 'select', 'stall', 'pin', 'pins', 'receive', 'send']);

/** The same board with the numbers of a pin and of pin 0 exchanged. */
function renumbered(facts: Facts, pin: number): Facts {
  const swap = (number: number) => (number === pin ? 0 : number === 0 ? pin : number);
  const told = (key: string, value: unknown): unknown => {
    if (typeof value === 'string')
      return value.replace(/^((?:\w+:)?p)(\d+)$/, (_, before: string, number: string) => before + swap(Number(number)));
    if (typeof value === 'number') return PINS.has(key) ? swap(value) : value;
    if (Array.isArray(value)) return value.map((entry) => told(key, entry));
    if (value === null || typeof value !== 'object') return value;
    return Object.fromEntries(Object.entries(value).map(([name, entry]) => [name, told(name, entry)]));
  };
  // A board with other numbers is a board.
  return { ...facts, board: told('', facts.board) as Facts['board'] };
} // prettier-ignore

/** What a machine does with all that hangs on it, and says. */
function lived({ ask, bench, heard }: Talk) {
  for (const line of ['M104 S60', 'M140 S40', 'M106 S128', 'G28', 'G1 X50 Y60 Z5 F3000', 'M400', 'M303 E0', 'state', 'M119'])
    ask(line, 120);
  bench.advance(60);
  return { heard: heard.map((line) => line.replace(/build=\w+/, '')), truth: bench.truth() };
} // prettier-ignore

describe('pin 0 is a pin like any other', () => {
  it('whatever of the machine hangs on it', async () => {
    const facts = plover.facts();
    const pins = new Set(placedLeads(facts).flatMap(({ net }) => ('pin' in net ? [net.pin] : [])));
    pins.delete(0);
    const on = async (board: Facts) =>
      lived(await talkTo({ facts: board, state: flashed(board, await buildFor(board, plover.compiler())) }));
    const usual = await on(facts);
    expect(pins.size).toBeGreaterThan(8);
    for (const pin of pins) expect([pin, await on(renumbered(facts, pin))]).toEqual([pin, usual]);
  }, 300_000);
});
