import { cardBlocks } from '@jolly/bench';
import { describe, expect, it } from 'vitest';
import { own, type Talk, talkTo, workshop } from './fixtures/builtMachine';
import { DISPLAY } from './witnesses/witness';

const plover = workshop();
const target = (talk: Talk, body: string) =>
  talk.ask('M105').find((line) => line.startsWith(`heat body=${body} `))?.match(/target=(\S+)/)?.[1]; // prettier-ignore
/** What is heard from now until so many seconds later. */
function heardIn(talk: Talk, seconds: number): string[] {
  const from = talk.heard.length;
  talk.bench.advance(seconds);
  return talk.heard.slice(from).filter((line) => !line.startsWith('meanwhile'));
}
const FILE = ['G1 X100 Y90 Z5 F9000', 'G28 X', 'G1 X60', 'M84'].join('\n');
/** The machine with this file on its card; homed, and some time after its print was begun. */
async function printing(text: string, seconds: number): Promise<Talk> {
  const card = cardBlocks([{ name: 'part.gco', bytes: new TextEncoder().encode(text) }]);
  const talk = await talkTo({ facts: plover.facts(), state: plover.state(), card });
  talk.ask('G28');
  talk.ask('M110 N10');
  talk.ask('card print n=1');
  talk.bench.advance(seconds);
  return talk;
}

describe('cool', () => {
  it.each([
    ['M109 S200', 'hotend'],
    ['M190 S60', 'bed'],
    ['tune h=0 c=150', 'hotend'],
    ['tune h=1 c=50', 'bed'],
  ])('switches heat off while %s goes on, and that ends with an error', async (line, body) => {
    const talk = await plover.powered();
    talk.bench.send(line);
    talk.bench.advance(5);
    expect(talk.bench.truth().duty[body as 'bed']).toBe(1); // one of the two above
    talk.bench.send('cool');
    expect(heardIn(talk, 0.3)).toEqual(['done', 'error: the heat was switched off']);
    expect(talk.bench.truth().duty[body as 'bed']).toBe(0); // as above
    expect(target(talk, body)).toBe('0.0');
    talk.bench.advance(10);
    expect(talk.bench.truth().duty[body as 'bed']).toBe(0); // as above
  });
  it('a target of 0 is reached at once, and no fault', async () => {
    const talk = await plover.powered();
    expect(talk.ask('M109 S0', 5)).toEqual(['done']);
    expect(talk.ask('M190 S0', 5)).toEqual(['done']);
  });
});

it('a heater that is not there is not tuned, and no other in its stead', async () => {
  const talk = await plover.powered();
  for (const which of [2, 5, -1, 0.4])
    expect(talk.ask(`tune h=${which} c=100`, 5)).toEqual(['error: no such heater']);
  expect(talk.ask('tune h=0 c=0', 5)).toEqual(['error: target out of range']);
  expect([target(talk, 'hotend'), target(talk, 'bed')]).toEqual(['0.0', '0.0']);
});

describe('what is refused, and is no line of the host’s, answers nothing', () => {
  it('a line of a print', async () => {
    const { heard } = await printing('N7 G1 X1 X2\n', 10);
    expect(heard.slice(-2)).toEqual([
      'refused print: a word is there twice, nothing done: "G1 X1 X2"',
      'print paused=yes why="a line of the print was refused"',
    ]);
  });
  it('what the display asks for', async () => {
    const talk = await plover.changed(...DISPLAY('slate-20'));
    talk.bench.advance(4);
    talk.bench.press();
    talk.bench.advance(1);
    // Resume stands behind what leads back, print and pause.
    talk.bench.turn(3);
    talk.bench.advance(0.5);
    talk.bench.send('G28');
    talk.bench.advance(0.5);
    talk.bench.press();
    expect(heardIn(talk, 100)).toEqual(['refused panel: the print is not paused', 'done']);
  });
  it('numbers of a file’s lines are not the host’s', async () => {
    const talk = await printing('N70 G4 P1\nN3 G4 P1\nM110 N900\nG4 P1', 2);
    expect(talk.heard.at(-1)).toBe('card state=over file=PART.GCO');
    expect(talk.ask('N11 G4 P1')).toEqual(['done']);
    for (const wrong of ['N5000000000 G4 P1', 'M110 N-5'])
      expect(talk.ask(wrong)[0]).toMatch(/^error: line number or sum cannot be read/);
    expect(talk.ask('N12 G4 P1')).toEqual(['done']);
  });
});

describe('a print from the card that is ended', () => {
  it('while it is paused: nothing waits for it any more', async () => {
    const talk = await printing(FILE, 0.1);
    talk.ask('pause');
    talk.bench.advance(20);
    expect(talk.values('state', 'print')['paused']).toBe('yes');
    // A line of the host's waits for the print, and what ends the print comes ahead of it.
    talk.bench.send('G1 X20 F9000');
    talk.bench.send('card stop');
    expect(heardIn(talk, 5)).toEqual(['card state=ended file=PART.GCO', 'done', 'print paused=no', 'done']);
    expect(talk.bench.truth().position.x).toBeCloseTo(20, 0);
    expect(talk.ask('card print n=1')).toEqual(['done']);
  });
  it('is moved by hand while it is paused, and not while it goes on', async () => {
    const talk = await printing('G1 X100 Y90 Z5 F9000\nG4 S30\nG1 X60', 3);
    expect(talk.ask('move by z=5').at(-1)).toBe('error: a print is under way');
    talk.ask('pause');
    talk.bench.advance(60);
    expect(talk.values('state', 'print')['paused']).toBe('yes');
    const { z } = talk.bench.truth().position;
    talk.ask('move by z=5');
    talk.bench.advance(5);
    expect(talk.bench.truth().position.z - z).toBeCloseTo(5, 1);
    expect(talk.ask('G28').at(-1)).toBe('error: a print is under way');
    talk.ask('resume');
    talk.bench.advance(20);
    expect(talk.bench.truth().position.x).toBeCloseTo(60, 1);
    expect(talk.bench.truth().position.z).toBeLessThan(z);
  });
  it('its next line, which waits until nothing moves, is dropped', async () => {
    const talk = await printing(FILE, 0.3);
    talk.ask('card stop');
    talk.bench.advance(20);
    expect(talk.bench.truth().position.x).toBeCloseTo(100, 0);
    expect(talk.values('M114', 'at')['homed']).toBe('xyz');
  });
});

it('what does not wait is heard however many lines wait', async () => {
  const talk = await plover.changed(own('extrude.from', 0));
  talk.ask('G28');
  talk.ask('pause');
  talk.bench.advance(20);
  for (let line = 0; line < 6; line += 1) talk.bench.send(`G1 X${50 + line} F9000`);
  expect(heardIn(talk, 2)).toEqual(Array<string>(2).fill('error: too many lines wait, nothing done'));
  talk.bench.send('resume');
  expect(heardIn(talk, 10).sort()).toEqual([...Array<string>(5).fill('done'), 'print paused=no']);
  expect(talk.bench.truth().position.x).toBeCloseTo(53, 0);
});
