import type { Rig } from './rig';

/** A line that cannot be carried out: which, and what was expected. */
export class BadLine extends Error {}

const numberFrom = (text: string | undefined, what: string, least: number, most: number): number => {
  const value = Number(text);
  if (text === undefined || text === '' || !Number.isFinite(value) || value < least || value > most)
    throw new BadLine(`${what} must be a number from ${least} to ${most}`);
  return value;
};

const named = (text: string | undefined, what: string): string => {
  if (text === undefined || text === '') throw new BadLine(`${what} is missing`);
  return text;
};

const LONGEST_WAIT_S = 1e6;
type Act = (rig: Rig, words: (string | undefined)[], rest: string) => void | Promise<void>;

/** What a line that begins with @ does. */
const ACTS: Readonly<Record<string, Act>> = {
  send: (rig, _words, rest) => rig.send(named(rest, 'the line to be sent')),
  wait: (rig, [seconds]) => rig.wait(numberFrom(seconds, 'the seconds to wait', 0, LONGEST_WAIT_S)),
  press: (rig, [part]) => rig.press(named(part, 'the part to press'), true),
  release: (rig, [part]) => rig.press(named(part, 'the part to let go'), false),
  warm: (rig, [part, degrees]) =>
    rig.warm(named(part, 'the part to warm'), numberFrom(degrees, 'the degrees', -50, 600)),
  chill: (rig, [part, share]) =>
    rig.chill(named(part, 'the part to chill'), numberFrom(share, 'the share', 0, 1000)),
  mend: (rig, [name]) => rig.mend(named(name, 'what is to be mended')),
  unplug: (rig, [lead]) => rig.unplug(named(lead, 'the part to unplug')),
  fault: (rig, [name]) => rig.lay(named(name, 'the fault')),
  card(rig, [what], rest) {
    if (what === undefined) throw new BadLine('@card wants tray, out, or the files that are to lie on it');
    if (what === 'out') rig.card();
    else rig.card(what === 'tray' ? [] : rest.split(/\s+/));
  },
  knob(rig, [way]) {
    const steps = new Map([
      ['right', 1],
      ['left', -1],
      ['press', 0],
    ]).get(way ?? '');
    if (steps === undefined) throw new BadLine('@knob wants right, left or press');
    rig.knob(steps);
  },
  touch(rig, [x, y]) {
    if (x === 'off') rig.touch(undefined);
    else rig.touch({ x: numberFrom(x, 'how far across', 0, 1), y: numberFrom(y, 'how far down', 0, 1) });
  },
  display: (rig) => rig.display(),
  power(rig, [state]) {
    if (state !== 'on' && state !== 'off') throw new BadLine('@power wants on or off');
    return rig.power(state === 'on');
  },
};

/**
 * Carries out one line of a script: `@…` does something to the machine, `@truth` is told through `truth`, anything else
 * is sent to the board and answered before the next.
 * @throws {BadLine} when it cannot be done
 */
export async function carryOut(rig: Rig, line: string, truth: () => void): Promise<void> {
  const text = line.trim();
  if (text === '' || text.startsWith('#')) return;
  try {
    if (!text.startsWith('@')) return rig.ask(text);
    const [name = '', ...words] = text.slice(1).split(/\s+/);
    if (name === 'truth') return truth();
    const act = Object.hasOwn(ACTS, name) ? ACTS[name] : undefined;
    if (!act) throw new BadLine(`there is no @${name}; there are @truth, ${Object.keys(ACTS).map((key) => `@${key}`).join(', ')}`); // prettier-ignore
    await act(rig, words, text.slice(1 + name.length).trim());
  } catch (error) {
    throw error instanceof BadLine
      ? error
      : new BadLine(error instanceof Error ? error.message : String(error));
  }
}
