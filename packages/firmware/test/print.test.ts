import { cardBlocks, type CardBlocks } from '@jolly/bench';
import { derive } from '@jolly/core/settings/derive';
import { testPrint } from '@jolly/core/slicer/testPrint';
import { writeEndCode } from '@jolly/core/slicer/writeStartCode';
import { describe, expect, it } from 'vitest';
import { talkTo, type Workshop, workshop } from './fixtures/builtMachine';
import { cardWith, heard, until, fedBy } from './fixtures/printing';

const plover = workshop();
const others: Record<string, Workshop> = { bittern: workshop('bittern'), dunlin: workshop('dunlin') };
const tray = (layers?: number) => testPrint(plover.facts(), derive(plover.facts()), layers);
describe('a print runs to its end', () => {
  it('of two thousand lines from the card, and every step of filament has been made', async () => {
    const text = tray();
    expect(text.split('\n').length).toBeGreaterThan(2000);
    const talk = await talkTo({
      facts: plover.facts(),
      state: plover.state(),
      seed: 1,
      card: cardWith(text),
    });
    expect(talk.ask('card list')).toEqual([
      expect.stringMatching(/^file n=1 name=TRAY\.GCO bytes=\d+$/),
      'done',
    ]);
    expect(talk.ask('card print n=1').at(-1)).toBe('done');
    expect(until(talk, () => heard(talk, 'card state=over').length > 0, 6000)).toBe(true);
    const { lost, blocked, position, filament } = talk.bench.truth();
    expect([lost, blocked]).toEqual([
      { x: 0, y: 0, z: 0, e: 0 },
      { x: 0, y: 0, z: 0 },
    ]);
    // One step of the extruder is 0.003 mm.
    expect(Math.abs(position.e - fedBy(text))).toBeLessThan(0.0031);
    expect(filament.slippedMm).toBe(0);
    // What it declared, and where it stands, differ by what homing stopped beyond its switch: less than a step.
    expect(Math.abs(position.x)).toBeLessThan(0.02);
    expect(talk.ask('card stop')[0]).toBe('error: no print is under way');
  });
  it.each(['bittern', 'dunlin'])('%s loses no step and no filament over it', async (id) => {
    const { facts, state } = others[id]!;
    const card = cardWith(testPrint(facts(), derive(facts()), 1));
    const talk = await talkTo({ facts: facts(), state: state(), seed: 1, card });
    talk.ask('card print n=1');
    expect(until(talk, () => heard(talk, 'card state=over').length > 0, 3000)).toBe(true);
    const { lost, filament } = talk.bench.truth();
    expect([lost, filament.slippedMm]).toEqual([{ x: 0, y: 0, z: 0, e: 0 }, 0]);
  });
  it('is hot to its last move, however slow that is', async () => {
    const facts = plover.facts();
    const slow = Array.from({ length: 12 }, (_, move) => `G1 X${move % 2 ? 200 : 20} E4 F300`);
    const card = cardWith(
      ['G28', 'G1 Z5', 'M83', 'M109 S200', ...slow, writeEndCode(facts, derive(facts))].join('\n'),
    );
    const talk = await talkTo({ facts, state: plover.state(), card });
    talk.ask('card print n=1');
    expect(until(talk, () => heard(talk, 'card state=over').length > 0, 1500)).toBe(true);
    expect(talk.bench.truth().filament.fedMm).toBeGreaterThan(40);
    expect(talk.bench.truth().filament.slippedMm).toBe(0);
  });
  it('over the link, line by line, as far and as exactly', async () => {
    const text = tray(1);
    const talk = await plover.powered();
    for (const line of text.split('\n').filter((entry) => entry.replace(/;.*/, '').trim() !== ''))
      expect(talk.ask(line, 900).at(-1)).toMatch(/^done$|outside the travel/);
    expect(Math.abs(talk.bench.truth().position.e - fedBy(text))).toBeLessThan(0.0031);
  });
  it('a line of the print that is refused pauses it, and says why', async () => {
    const card = cardWith('G28\nG1 X9999\nG1 X50\n');
    const talk = await talkTo({ facts: plover.facts(), state: plover.state(), card });
    talk.ask('card print n=1');
    talk.bench.advance(60);
    expect(heard(talk, 'error:')).toEqual([]);
    expect(heard(talk, 'refused')).toEqual(['refused print: outside the travel']);
    expect(heard(talk, 'print paused=yes')).toEqual([
      'print paused=yes why="a line of the print was refused"',
    ]);
  });
  it('a card that is no FAT32, or empty, or not there, is told apart from nothing to print', async () => {
    const empty = await talkTo({ facts: plover.facts(), state: plover.state(), card: cardBlocks([]) });
    expect(empty.ask('card list')).toEqual(['done']);
    expect(empty.ask('card print n=1')[0]).toBe('error: there is no such file');
    const none = await plover.powered();
    expect(none.ask('card list')[0]).toBe('error: there is no FAT32 card in the slot');
    const blank: CardBlocks = {
      read: (_, into) => (into.fill(0), true),
      write: () => false,
      names: () => [],
    };
    const other = await talkTo({ facts: plover.facts(), state: plover.state(), card: blank });
    expect(other.ask('card list')[0]).toBe('error: there is no FAT32 card in the slot');
  });
});

describe('pause, change of filament, going on', () => {
  const printing = async () => {
    const card = cardWith(tray(6));
    const talk = await talkTo({ facts: plover.facts(), state: plover.state(), seed: 1, card });
    talk.ask('card print n=1');
    until(talk, () => talk.bench.truth().position.e > 40, 900);
    return talk;
  };

  it('goes aside, waits, changes filament, comes back to the very place and prints to its end', async () => {
    const talk = await printing();
    expect(talk.ask('pause').at(-1)).toBe('done');
    expect(until(talk, () => heard(talk, 'print paused=yes').length > 0, 60)).toBe(true);
    const aside = talk.bench.truth();
    expect(aside.nozzleAbovePlateMm === null || aside.nozzleAbovePlateMm > 8).toBe(true);
    talk.bench.advance(120);
    expect(talk.bench.truth().position).toEqual(aside.position);
    expect(talk.ask('pause')[0]).toBe('error: the print is paused already');
    const before = aside.position.e;
    expect(talk.ask('swap filament', 60).at(-1)).toBe('done');
    expect(talk.bench.truth().position.e - before).toBeCloseTo(-80, 1);
    expect(talk.ask('prime e=30', 60).at(-1)).toBe('done');
    expect(talk.ask('resume').at(-1)).toBe('done');
    expect(until(talk, () => heard(talk, 'card state=over').length > 0, 2000)).toBe(true);
    const { position, lost } = talk.bench.truth();
    expect(lost).toEqual({ x: 0, y: 0, z: 0, e: 0 });
    expect(position.e).toBeCloseTo(fedBy(tray(6)) - 80 + 30, 1);
  });
  it('filament that was drawn back and pushed again for a pause does not slip', async () => {
    const talk = await printing();
    talk.ask('pause');
    expect(until(talk, () => heard(talk, 'print paused=yes').length > 0, 60)).toBe(true);
    talk.ask('resume');
    expect(until(talk, () => heard(talk, 'card state=over').length > 0, 2000)).toBe(true);
    expect(talk.bench.truth().filament.slippedMm).toBeLessThan(0.01);
  });
  it('a pause that waits for the heat is taken back by going on, one that something else asked for is not', async () => {
    const talk = await talkTo({
      facts: plover.facts(),
      state: plover.state(),
      seed: 1,
      card: cardWith(tray(3)),
    });
    talk.ask('card print n=1');
    talk.bench.advance(30);
    expect(talk.ask('pause').at(-1)).toBe('done');
    talk.bench.advance(5);
    expect(talk.ask('resume').at(-1)).toBe('done');
    expect(until(talk, () => heard(talk, 'card state=over').length > 0, 2000)).toBe(true);
    expect([heard(talk, 'print paused=yes'), heard(talk, 'print paused=no')]).toEqual([
      [],
      ['print paused=no'],
    ]);
    expect(talk.ask('resume')[0]).toBe('error: the print is not paused');
  });
  it('what moves and comes from elsewhere is refused while the card prints, paused or not; questions and heat are not', async () => {
    const talk = await printing();
    const refused = ['G1 X10', 'G28', 'M84', 'map take', 'M502', 'G91', 'card print n=1', 'M109 S200'];
    for (const line of refused) expect(talk.ask(line)[0]).toBe('error: a print is under way');
    for (const line of ['state', 'M105', 'M104 S205', 'M106 S100', 'nudge z=0.02'])
      expect(talk.ask(line).at(-1)).toBe('done');
    talk.ask('pause');
    talk.bench.advance(30);
    for (const line of refused) expect(talk.ask(line)[0]).toBe('error: a print is under way');
    talk.ask('resume');
    expect(until(talk, () => heard(talk, 'card state=over').length > 0, 2000)).toBe(true);
    expect(talk.bench.truth().position.e).toBeCloseTo(fedBy(tray(6)), 1);
    expect(talk.ask('G91').at(-1)).toBe('done');
  });
  it('a host that waits behind a long line of the print hears that the board is at work', async () => {
    const talk = await talkTo({ facts: plover.facts(), state: plover.state(), seed: 1, card: cardWith('M109 S220\nG28\n') });
    talk.ask('card print n=1');
    talk.bench.advance(2);
    // Nobody waits, and nothing is said.
    expect(heard(talk, 'meanwhile')).toEqual([]);
    talk.bench.send('M106 S100');
    talk.bench.advance(5);
    expect(heard(talk, 'meanwhile state').length).toBeGreaterThanOrEqual(4);
    expect(heard(talk, 'done')).toHaveLength(1);
    expect(until(talk, () => heard(talk, 'done').length > 1, 600)).toBe(true);
    expect(talk.bench.truth().fans['part-fan']).toBeGreaterThan(0);
  }); // prettier-ignore
  it('a nozzle that went cold meanwhile is not gone on with', async () => {
    const talk = await printing();
    talk.ask('pause');
    talk.bench.advance(30);
    talk.ask('M104 S0');
    talk.bench.advance(300);
    expect(talk.ask('resume')[0]).toBe('error: the hot end is too cold to extrude');
    expect(talk.ask('swap filament')[0]).toBe('error: the hot end is too cold to extrude');
  });
  it('a stop ends the print: nothing goes on after waking', async () => {
    const talk = await printing();
    talk.bench.send('M112');
    talk.bench.advance(1);
    talk.ask('wake');
    const stood = talk.bench.truth().position;
    talk.bench.advance(30);
    expect(talk.bench.truth().position).toEqual(stood);
    expect(talk.ask('resume')[0]).toBe('error: the print is not paused');
  });
});
