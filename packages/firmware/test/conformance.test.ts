import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { KitCommand } from '@jolly/core/kit/kit';
import { storedName, storedSettings } from '@jolly/core/kit/storedSettings';
import { describe, expect, it } from 'vitest';
import { loadKitSources } from '../../server/src/files/catalogue';
import { own, root, type Talk, workshop } from './fixtures/builtMachine';
import { EVERYTHING, SAID } from './fixtures/everything';
import { commandTable, messageTable } from './fixtures/reference';

const plover = workshop();
const sources = async () => [...(await loadKitSources(root, 'lantern'))];
/** Commands that every image takes before its tables are looked at, or that the settings' table brings. */
const NOT_IN_TABLES = ['M110', 'M112'];

describe('the tables of the sources and the kit file say the same', () => {
  it('every command in C is in the kit, and every command of the kit is in C or sets a stored setting', async () => {
    const { kit } = plover.facts();
    const inC = (await sources()).flatMap(([, text]) => [
      ...[...text.matchAll(/^ {4}CODE\('(\w)', (\d+),/gm)].map(([, letter, number]) => `${letter}${number}`),
      ...[...text.matchAll(/^ {4}VERB\("([a-z ]+)",/gm)].map(([, verb]) => `${verb}`),
    ]);
    const known = [...inC, ...kit.stored.map(({ say }) => say), ...NOT_IN_TABLES];
    expect([...new Set(known)].sort()).toEqual(kit.commands.map(({ say }) => say).sort());
  });
  it('every message of the kit is said somewhere, and no other is', async () => {
    const { kit } = plover.facts();
    const said = (await sources()).flatMap(([, text]) =>
      [...text.matchAll(/\bMSG_(\w+)/g)].map(([, name]) => name),
    );
    expect([...new Set(said)].sort()).toEqual(kit.messages.map(({ name }) => name).sort());
    // A long message has room in a line with what is refused.
    for (const { say } of kit.messages) expect(say.length).toBeLessThan(80);
  });
  it('the reference holds both tables as they are (npm run reference)', () => {
    const { kit } = plover.facts();
    const text = readFileSync(join(root, 'packages/firmware/REFERENCE.md'), 'utf8');
    expect(text).toContain(commandTable(kit));
    expect(text).toContain(messageTable(kit));
  });
  it('no two stored settings have the same name in the store', () => {
    const names = storedSettings(plover.facts().kit).map(({ option }) => storedName(option));
    expect(new Set(names).size).toBe(names.length);
  });
});

const heldBack = (line: string | undefined) => /this image does not know it|cannot read it/.test(line ?? '');
const answer = (talk: Talk, say: string) => {
  talk.bench.send(SAID[say] ?? say);
  let found: string | undefined;
  const from = talk.heard.length;
  talk.bench.advanceUntil(() => {
    found = talk.heard
      .slice(from)
      .find((line) => /^(done$|error|stopped|meanwhile|map point|tune)/.test(line));
    return found !== undefined;
  }, 120);
  return found;
};

describe('line by line', () => {
  it('an image with everything knows every command of the kit', async () => {
    const talk = await plover.changed(...EVERYTHING);
    const { kit } = plover.facts();
    // Plover has no place for a second extruder: its witness is Bittern.
    for (const { say } of kit.commands.filter(
      ({ by, value }) => by !== 'extruder.second' && value === undefined,
    )) {
      if (say === 'M112') continue;
      expect([say, heldBack(answer(talk, say))]).toEqual([say, false]);
      talk.bench.send('M112');
      talk.bench.advance(1);
      talk.ask('wake');
    }
  });
  it('and one without an option says that it does not know what the option brings', async () => {
    const { kit } = plover.facts();
    const offOf = ({ by }: KitCommand) => kit.options.find(({ key }) => key === by);
    for (const key of [
      'arcs.on',
      'fan.part',
      'map.on',
      'tram.on',
      'pause.on',
      'change.on',
      'card.print',
      'nudge.on',
    ]) {
      const talk = await plover.builtWith(own(key, false));
      for (const command of kit.commands.filter(({ by }) => by === key)) {
        expect(offOf(command)?.key).toBe(key);
        expect(talk.ask(SAID[command.say] ?? command.say)[0]).toMatch(/^error: this image does not know it/);
      }
    }
  });
  it('short replies are the number of the message, and what the kit says it means', async () => {
    const { kit } = plover.facts();
    const talk = await plover.builtWith(own('reply.long', false));
    const meant = (line: string) => {
      const number = /^error: (\d+)/.exec(talk.ask(line)[0] ?? '')?.[1];
      return kit.messages[Number(number) - 1]?.name;
    };
    expect(meant('M104 S900')).toBe('TARGET_RANGE');
    expect(meant('G1 X50')).toBe('NOT_HOMED_REACH');
    expect(meant('M12')).toBe('UNKNOWN');
    expect(meant('G1 E5')).toBe('TOO_COLD');
    talk.bench.send('M112');
    talk.bench.advance(1);
    const stop = talk.heard.find((line) => line.startsWith('stopped: '));
    expect(kit.messages[Number(stop?.slice(9)) - 1]?.name).toBe('BY_HOST');
  });
});
