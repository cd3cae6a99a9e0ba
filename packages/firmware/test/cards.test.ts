import type { CardBlocks } from '@jolly/bench';
import { describe, expect, it } from 'vitest';
import { own, type Talk, talkTo, workshop } from './fixtures/builtMachine';
import { readFat32 } from '../../bench/test/fixtures/readFat32';
import { type Entry, formattedCard, type Formatted } from './fixtures/formattedCard';

const plover = workshop();
const powered = (card: CardBlocks) => talkTo({ facts: plover.facts(), state: plover.state(), seed: 1, card });
const heard = ({ heard: lines }: Talk, begin: string) => lines.filter((line) => line.startsWith(begin));
const printed = (talk: Talk, seconds = 600) =>
  talk.bench.advanceUntil(() => heard(talk, 'card state=over').length > 0, seconds);

/** Lines of 16 bytes that go 0.01 mm each, so that where X ends tells how many were carried out; then spaces. */
function steps(bytes: number): { text: string; mm: number } {
  const count = Math.floor((bytes - 16) / 16);
  const text = ['G91 ;-----------', ...Array.from({ length: count }, () => 'G1 X0.01 F12000')].join('\n');
  return { text: `${text.slice(0, 15)}\n${text.slice(17)}\n`.padEnd(bytes, ' '), mm: count / 100 };
}

const CARDS: [string, Formatted][] = [
  ['behind a table of partitions', {}],
  ['without one', { from: 0 }],
  ['with clusters of one block, in pieces', { blocksACluster: 1, gaps: true }],
  ['with large clusters and one table', { blocksACluster: 64, fats: 1 }],
  ['with its root elsewhere', { root: 9 }],
];

describe('a card as computers format it', () => {
  it.each(CARDS)('%s: what prints is listed, and nothing else', async (_, how) => {
    const many = Array.from({ length: 20 }, (_entry, nth): Entry => ({
      name: `PART${nth}.GCO`,
      text: 'G91\n',
    }));
    const card = formattedCard(
      [
        { name: 'VOLUME', attributes: 0x08 },
        { name: 'GONE.GCO', begins: 0xe5 },
        { name: 'LONGNAME.GCO', attributes: 0x0f },
        { name: 'FOLDER.GCO', attributes: 0x10 },
        { name: 'README.TXT', text: 'read me' },
        { name: 'A.G', text: 'G91\nG1 X1\n' },
        { name: 'B.GX', text: 'no' },
        { name: 'C.GC', text: 'no' },
        { name: 'HIDDEN.GCO', attributes: 0x22, text: 'G91\n' },
        ...many,
        { name: 'EIGHTLET.GCO' },
      ],
      how,
    );
    const { ask } = await powered(card);
    const listed = ask('card list').flatMap(
      (line) => /name=(\S+) bytes=(\d+)/.exec(line)?.slice(1, 3).join(' ') ?? [],
    );
    expect(listed).toEqual([
      'A.G 10',
      'HIDDEN.GCO 4',
      ...many.map(({ name }) => `${name} 4`),
      'EIGHTLET.GCO 0',
    ]);
    expect(ask('card print n=99')[0]).toBe('error: there is no such file');
    expect(ask('card print n=0')[0]).toBe('error: there is no such file');
  });

  it.each(CARDS)(
    '%s: a file is printed to its last byte, wherever its blocks and clusters end',
    async (_, how) => {
      for (const bytes of [512, 528, 4096, 4112, 9216]) {
        const { text, mm } = steps(bytes);
        const talk = await powered(formattedCard([{ name: 'STEPS.GCO', text }], how));
        talk.ask('G28 X');
        const from = talk.bench.truth().position.x;
        talk.ask('card print n=1');
        expect([bytes, printed(talk)]).toEqual([bytes, true]);
        expect([bytes, talk.bench.truth().position.x - from]).toEqual([bytes, expect.closeTo(mm, 1)]);
      }
    },
  );

  it('that is none of FAT32 is told to be none', async () => {
    const files = [{ name: 'A.GCO', text: 'G91\n' }];
    for (const spoil of [
      (bytes: DataView) => bytes.setUint16(510, 0, true),
      (bytes: DataView) => bytes.setUint16(11, 1024, true),
      (bytes: DataView) => bytes.setUint16(17, 512, true),
      (bytes: DataView) => bytes.setUint8(13, 0),
      (bytes: DataView) => bytes.setUint32(36, 0, true),
      (bytes: DataView) => bytes.setUint32(44, 1, true),
    ]) {
      const card = formattedCard(files);
      const boot = new Uint8Array(512);
      card.read(2048, boot);
      spoil(new DataView(boot.buffer));
      card.write(2048, boot);
      expect((await powered(card)).ask('card list')).toEqual(['error: there is no FAT32 card in the slot']);
    }
  });
});

describe('a card that is pulled while it prints', () => {
  /** Waits at so many bytes, then goes on. */
  const waitingAt = (bytes: number, all: number) => {
    const { text, mm } = steps(all);
    const wait = 'G4 S5 ;--------\n';
    return { text: text.slice(0, bytes - wait.length) + wait + text.slice(bytes), mm: mm - 0.01 };
  };
  it.each([512, 1024, 4096, 8192, 8208, 12288])(
    'at byte %i goes on where it was when it is back',
    async (at) => {
      const { text, mm } = waitingAt(at, 16_384);
      const card = formattedCard([{ name: 'STEPS.GCO', text }], { gaps: true });
      const talk = await powered(card);
      talk.ask('G28 X');
      const from = talk.bench.truth().position.x;
      talk.ask('card print n=1');
      const begun = () => Math.abs(talk.bench.truth().position.x - from - (at / 16 - 2) / 100) < 0.006;
      for (let tenth = 0; tenth < 600 && !begun(); tenth += 1) talk.bench.advance(0.1);
      talk.bench.putCard(undefined);
      talk.bench.advance(10);
      expect(heard(talk, 'print paused=yes')).toEqual(['print paused=yes why="the card cannot be read"']);
      talk.ask('resume');
      talk.bench.advance(10);
      expect(heard(talk, 'print paused=yes').at(-1)).toBe('print paused=yes why="the card cannot be read"');
      talk.bench.putCard(card);
      talk.ask('resume');
      expect(printed(talk)).toBe(true);
      expect(heard(talk, 'error:')).toEqual([]);
      expect(talk.bench.truth().position.x - from).toBeCloseTo(mm, 1);
    },
  );

  it('and comes back as another, or with another file of that name, is not printed from', async () => {
    const { text } = waitingAt(8192, 16_384);
    for (const other of [
      formattedCard([{ name: 'OTHER.GCO', text }]),
      formattedCard([{ name: 'STEPS.GCO', text: `${text}G1 X1\n` }]),
      formattedCard([
        { name: 'BEFORE.TXT', text },
        { name: 'STEPS.GCO', text },
      ]),
    ]) {
      const talk = await powered(formattedCard([{ name: 'STEPS.GCO', text }]));
      talk.ask('G28 X');
      talk.ask('card print n=1');
      talk.bench.advance(2);
      talk.bench.putCard(undefined);
      talk.bench.advance(30);
      expect(heard(talk, 'print paused=yes')).toHaveLength(1);
      talk.bench.putCard(other);
      const stands = talk.bench.truth().position.x;
      talk.ask('resume');
      talk.bench.advance(30);
      expect(heard(talk, 'print paused=yes').at(-1)).toBe(
        'print paused=yes why="this card does not hold the file as it was"',
      );
      expect(talk.bench.truth().position.x).toBeCloseTo(stands, 2);
    }
  });

  it('nor is one that was changed while the print was paused', async () => {
    const { text } = waitingAt(8192, 16_384);
    const talk = await powered(formattedCard([{ name: 'STEPS.GCO', text }]));
    talk.ask('G28 X');
    talk.ask('card print n=1');
    talk.bench.advance(2);
    talk.ask('pause');
    talk.bench.advance(20);
    talk.bench.putCard(
      formattedCard([{ name: 'STEPS.GCO', text: text.replaceAll('X0.01', 'X0.99') + 'G1 X1\n' }]),
    );
    const stands = talk.bench.truth().position.x;
    talk.ask('resume');
    talk.bench.advance(30);
    expect(heard(talk, 'print paused=yes').at(-1)).toContain('this card does not hold the file as it was');
    expect(talk.bench.truth().position.x).toBeCloseTo(stands, 2);
  });
});

describe('a line of a print', () => {
  it.each([
    [95, 'over'],
    [96, 'paused'],
  ])('of %i letters', async (letters, ends) => {
    const talk = await powered(formattedCard([{ name: 'LONG.GCO', text: `${'G4 P1'.padEnd(letters)}\n` }]));
    talk.ask('card print n=1');
    talk.bench.advance(20);
    expect(heard(talk, 'print paused=yes').length > 0 ? 'paused' : 'over').toBe(ends);
  });
  it('that is too long pauses it, and is left out to its end when it goes on', async () => {
    const long = `G1 X5 ${' '.repeat(122)}G1 X7`;
    const text = `G91\nG1 X1 ;${'-'.repeat(300)}\n${long}\nG1 X0.5\n`;
    const talk = await powered(formattedCard([{ name: 'LONG.GCO', text }]));
    talk.ask('G28 X');
    const from = talk.bench.truth().position.x;
    talk.ask('card print n=1');
    talk.bench.advance(20);
    expect(heard(talk, 'print paused=yes')).toEqual([expect.stringContaining('too long')]);
    talk.ask('resume');
    expect(printed(talk)).toBe(true);
    expect(talk.bench.truth().position.x - from).toBeCloseTo(1.5, 1);
  });
});

describe('a print that was cut off', () => {
  it('is gone on with from the very card only, before anything warms or moves', async () => {
    const { facts, state } = await plover.built(
      own('resume.on', true),
      own('extrude.from', 0),
      own('card.locked', true),
    );
    const text = `G91\nM140 S40\n${'G1 Z0.3 E0.1 F600\nG1 X0.1 E0.01\n'.repeat(200)}`;
    const card = formattedCard([{ name: 'CUT.GCO', text }]);
    const before = await talkTo({ facts, state, seed: 1, card });
    before.ask('G28', 200);
    before.ask('card print n=1');
    before.bench.advance(12);
    const kept = { ...state, store: before.bench.store() };
    const other = formattedCard([{ name: 'CUT.GCO', text: `${text}G1 X1\n` }]);
    const wrong = await talkTo({ facts, state: kept, seed: 1, card: other });
    const stands = wrong.bench.truth().position;
    expect(wrong.ask('card resume')).toEqual(['error: this card does not hold the file as it was']);
    wrong.bench.advance(5);
    expect([wrong.bench.truth().position, wrong.bench.truth().duty.bed]).toEqual([stands, 0]);
    const right = await talkTo({ facts, state: kept, seed: 1, card });
    expect(right.ask('card resume', 900).at(-1)).toBe('done');
  });

  it('is noted on the card it is printed from: what lies on it stays as it was', async () => {
    const { facts, state } = await plover.built(own('resume.on', true), own('extrude.from', 0));
    const text = `G91\nM83\n${'G1 Z0.3 E0.1 F600\nG1 X0.1 E0.01\n'.repeat(20)}`;
    const files = (count: number) =>
      Array.from({ length: count }, (_, nth): Entry => ({
        name: `PART${nth}.GCO`,
        text: `${text};${nth}\n`.repeat(4),
      }));
    const first = formattedCard(files(1));
    const second = formattedCard(files(12), { gaps: true });
    const talk = await talkTo({ facts, state, seed: 1, card: first });
    talk.ask('G28', 200);
    for (const card of [first, second, first]) {
      talk.bench.putCard(card);
      talk.ask('card print n=1');
      talk.bench.advance(5);
      expect(talk.values('state', 'resume')).toMatchObject({ file: 'PART0.GCO' });
      expect(printed(talk)).toBe(true);
      talk.heard.length = 0;
    }
    for (const [card, count] of [
      [first, 1],
      [second, 12],
    ] as const) {
      const read = readFat32((block) => {
        const bytes = new Uint8Array(512);
        return card.read(block, bytes) ? bytes : undefined;
      });
      expect(read.tables.every((table) => table.join() === read.tables[0]?.join())).toBe(true);
      expect(
        read.files.map(({ name, bytes }) => [
          name,
          name === 'RESUME.NOT' ? '' : new TextDecoder().decode(Uint8Array.from(bytes)),
        ]),
      ).toEqual([...files(count).map(({ name, text: held }) => [name, held]), ['RESUME.NOT', '']]);
    }
  });
});
