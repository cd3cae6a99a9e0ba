import { describe, expect, it } from 'vitest';
import { roomOf } from '../src/fit/chooseFit';
import { holdingBoards } from '../src/ripple/holdingBoards';
import { certain } from '../src/tree/certain';
import { demoMachine, factsOf } from './fixtures/demo';

const plover = factsOf(demoMachine('plover'));
const list = holdingBoards(plover, { flash: 20_000, ram: 4000 });
const named = (id: string) =>
  certain(
    list.find(({ board }) => board.id === id),
    id,
  );
const { chips, boards } = plover.catalogue;
const roomOn = (id: string) => roomOf(certain(chips.find((chip) => chip.id === certain(boards.find((board) => board.id === id), id).chip), id)); // prettier-ignore

describe('boards that hold everything', () => {
  it('are those the kit has a target for, and never the machine’s own', () => {
    for (const id of ['plover', 'bittern', 'dunlin']) {
      const { board, facts } = { board: demoMachine(id).board, facts: factsOf(demoMachine(id)) };
      const named = holdingBoards(facts, { flash: 1, ram: 1 }).map(
        (one) => `${one.board.id} ${one.board.revision}`,
      );
      expect(named.length).toBeGreaterThan(2);
      expect(named).not.toContain(`${board.id} ${board.revision}`);
    }
    expect(holdingBoards({ ...plover, kit: { ...plover.kit, targets: [] } }, { flash: 1, ram: 1 })).toEqual(
      [],
    );
  });

  it('come by what cannot be connected, then by the leads that change', () => {
    expect(list.length).toBeGreaterThan(2);
    const worth = list.map(({ unplaced, leads }) => unplaced.length * 1000 + leads);
    expect(worth).toEqual([...worth].sort((a, b) => a - b));
    expect(named('alder-a32').unplaced).toEqual([]);
    expect(named('sedge-s4').unplaced).toContain('probe');
  });

  it('tell what is left clear of the brim, and are not named by one byte less', () => {
    const { flash, ram } = roomOn('alder-a32');
    expect(named('alder-a32').left).toEqual({ flash: flash - 20_000, ram: ram - 4000 });
    const whole = { flash, ram };
    expect(holdingBoards(plover, whole).map(({ board }) => board.id)).toContain('alder-a32');
    for (const more of [
      { flash: flash + 1, ram },
      { flash, ram: ram + 1 },
    ])
      expect(holdingBoards(plover, more).map(({ board }) => board.id)).not.toContain('alder-a32');
  });

  it('modules are spare, not without a place, where a board has drivers of its own', () => {
    const soldered = boards.filter(({ drivers }) => drivers === 'soldered').map(({ id }) => id);
    for (const { board, unplaced } of list.filter(({ board: { id } }) => soldered.includes(id)))
      expect([board.id, unplaced.filter((part) => part.endsWith('-driver'))]).toEqual([board.id, []]);
  });
});
