import { describe, expect, it } from 'vitest';
import { EVERYTHING, SAID } from './fixtures/everything';
import { type Talk, workshop } from './fixtures/builtMachine';

const plover = workshop();
const CLOSING = /^(done$|error|stopped)/;
const SOON_S = 1;

/** How lines that are sent together end within a second. */
function answered({ bench, heard }: Talk, lines: string[]): string[] {
  const from = heard.length;
  for (const line of lines) bench.send(line);
  bench.advance(SOON_S);
  return heard.slice(from).filter((line) => CLOSING.test(line));
}

/** The board as it is after a stop, woken. */
function afresh(talk: Talk): void {
  talk.bench.send('M112');
  talk.bench.advance(SOON_S);
  talk.ask('wake');
  talk.ask('limits off');
  talk.ask('G91');
}

/** When a command begins: after a stop, while something moves, while another line is not over. */
function whenItBegins(talk: Talk, line: string): string {
  afresh(talk);
  answered(talk, ['M112']);
  const [asleep = 'waits'] = answered(talk, [line]);
  afresh(talk);
  const moving = answered(talk, ['G1 X3 F60', line]).length > 1;
  afresh(talk);
  const waiting = answered(talk, ['G4 P5000', line]).length > 0;
  const says = (yes: boolean, text: string) => (yes ? [text] : []);
  const when = [
    ...says(!/^error: asleep since the stop/.test(asleep), 'after a stop'),
    ...says(moving, 'while something moves'),
    ...says(waiting, 'ahead of lines that wait'),
  ];
  return `${line}: ${when.join(', ') || 'in its turn'}`;
}

describe('when a command begins', () => {
  it('is as it stands in the table', async () => {
    const talk = await plover.changed(...EVERYTHING);
    const { kit } = plover.facts();
    // Plover has no place for a second extruder.
    const said = kit.commands.filter(({ by, value, say }) => by !== 'extruder.second' && value === undefined && say !== 'M112');
    const table = said.map(({ say }) => whenItBegins(talk, SAID[say] ?? say));
    await expect(`${table.join('\n')}\n`).toMatchFileSnapshot('lives/when-commands-begin.txt');
  });
}); // prettier-ignore
