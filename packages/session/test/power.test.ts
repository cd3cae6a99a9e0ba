import type { Beginning, BenchLook, BoardState } from '@jolly/bench';
import type { HandAct } from '@jolly/core/bringup/handAct';
import type { TurnedScrew } from '@jolly/contract/endpoints/board';
import { describe, expect, it } from 'vitest';
import { isAwake, isLive, powerControl, type Powered } from '../src/power';
import { board, machine, settle, stored } from './fixtures/poweredMachine';

describe('power', () => {
  it('is live from the moment it is being switched on, and awake only once the board has answered', () => {
    const of = (power: Powered['power']) => ({ power, readings: {}, curve: [] }) as unknown as Powered;
    const states: [Powered['power'], boolean, boolean][] = [
      [{ state: 'off' }, false, false],
      [{ state: 'starting' }, true, false],
      [{ state: 'on', imageHash: null }, true, true],
      [{ state: 'held', by: 'another window' }, false, false],
    ];
    for (const [power, ...wanted] of states)
      expect([power.state, isLive(of(power)), isAwake(of(power))]).toEqual([power.state, ...wanted]);
  });
  it('comes on, is told, and goes with everything that hung on it', async () => {
    const { control, tape, log } = machine();
    await control.powerOn();
    expect(isAwake(control.powered.now())).toBe(true);
    expect(tape).toContain('done: Power on');
    control.powerOff();
    expect(control.powered.now()).toMatchObject({ power: { state: 'off' }, readings: {} });
    expect(log).toEqual(expect.arrayContaining(['closed', 'let go', 'listens no more']));
  });
  it('is asked how it stands by itself, and the tape holds what a person sent only', async () => {
    const { control, sent, tape } = machine();
    await control.powerOn();
    await settle();
    expect(sent).toEqual(['state']);
    await control.ask('M105');
    expect(sent).toEqual(['state', 'M105']);
    expect(tape.filter((line) => line.startsWith('sent: '))).toEqual(['sent: M105']);
  });
  it('stays off when another window holds the link', async () => {
    const { control, log } = machine({ held: true });
    await control.powerOn();
    expect(control.powered.now().power).toEqual({
      state: 'held',
      by: 'another window of Jolly Cog or by a tool',
    });
    expect(log).toEqual([]);
  });
  it('wakes up with what the board stored last: it is not read before that is kept', async () => {
    let kept: () => void = () => undefined;
    const { control, log } = machine({ storeKept: () => new Promise((done) => (kept = done)) });
    const on = control.powerOn();
    await settle();
    expect(log).not.toContain('asked');
    kept();
    await on;
    expect(log).toContain('asked');
    expect(isAwake(control.powered.now())).toBe(true);
  });
  it('gives a run away only when what the board stored in it is kept: who gets it looks there, too', async () => {
    let kept: () => void = () => undefined;
    let waits = false;
    const { control } = machine({ storeKept: () => (waits ? new Promise((done) => (kept = done)) : Promise.resolve()) }); // prettier-ignore
    await control.powerOn();
    waits = true;
    let given = false;
    const recording = control.recording().then(() => (given = true));
    await settle();
    expect(given).toBe(false);
    kept();
    await recording;
    expect(given).toBe(true);
  });
  it('stays off, and says why, while what the board stored last is not kept', async () => {
    const { control, tape } = machine({ storeKept: () => Promise.reject(new Error('not kept yet')) });
    await control.powerOn();
    expect(control.powered.now().power).toEqual({ state: 'off' });
    expect(tape).toContain('done: The power stays off: not kept yet');
  });
  it('offers a fresh image on the card to the bootloader first, unless that was just done', async () => {
    const offered = machine({ card: true });
    await offered.control.powerOn();
    expect(offered.log.slice(0, 2)).toEqual(['asked', 'flashed']);
    const seen = machine({ card: true });
    await seen.control.powerOn(true);
    expect(seen.log).not.toContain('flashed');
  });
  it('stays off, with the link let go, when the flash is refused', async () => {
    const { control, tape, log } = machine({ card: true, refuses: 'There is no way back.' });
    await control.powerOn();
    expect(control.powered.now().power.state).toBe('off');
    expect(tape).toContain('done: The power stays off: There is no way back.');
    expect(log).toContain('let go');
  });
  it('a power-off while it comes on ends it for good', async () => {
    const { control, log } = machine();
    const coming = control.powerOn();
    control.powerOff();
    await coming;
    expect(control.powered.now().power.state).toBe('off');
    expect(log).not.toContain('listens');
  });
  it('a power-off before the board has woken up ends the power-on, too', async () => {
    const { control } = machine({ never: true });
    const coming = control.powerOn();
    await settle();
    control.powerOff();
    await coming;
    expect(control.powered.now().power.state).toBe('off');
  });
  it('a power-off in the moment the board wakes up wins: it is off, and not told to be on', async () => {
    let wakes: () => void = () => undefined;
    const { control, log, tape } = machine({ waking: (woken) => (wakes = woken) });
    const coming = control.powerOn();
    await settle();
    wakes();
    control.powerOff();
    await coming;
    expect(control.powered.now().power.state).toBe('off');
    expect(tape.filter((line) => line.startsWith('done: Power on'))).toEqual([]);
    expect(log).not.toContain('listens');
  });
  it('a silent board is on and not awake; nothing is asked of it', async () => {
    const { control, polls } = machine({ silent: 'no image' });
    await control.powerOn();
    expect(control.powered.now().power).toMatchObject({
      state: 'on',
      silent: 'no image',
      mend: 'Mend it.',
    });
    expect([isAwake(control.powered.now()), polls()]).toEqual([false, 0]);
  });
});

/** A machine whose link can be looked into: how it was begun, and what is seen of it. */
function looked() {
  const begun: { begins: Beginning | undefined; hands: readonly HandAct[]; state: BoardState }[] = [];
  let seen: (look: BenchLook) => void = () => undefined;
  let hear: (line: string, atS: number) => void = () => undefined;
  let now = 1000;
  const log: string[] = [];
  let kept: TurnedScrew[] = [];
  const control = powerControl('plover', {
    client: {
      board: () => Promise.resolve({ ...stored, imageHash: 'aa', screws: kept }),
      putScrews: (_at, { screws }) => (screws.some(({ up }) => up > 9) ? Promise.reject(new Error('too far')) : Promise.resolve((kept = screws, {}))),
      flash: () => Promise.reject(new Error('nothing is offered')),
      image: ({ hash }) => Promise.resolve(new Response(new Uint8Array([7, 8, hash.length]))),
    },
    board: () => board,
    link: (state, { look }, begins, hands) => {
      begun.push({ state, begins, hands });
      seen = look;
      return {
        kind: 'bench',
        open: (onLine) => ((hear = onLine), Promise.resolve({})),
        close: () => undefined,
        writeLine: (line) => void log.push(line),
        setStepping: (on) => void log.push(`stepping ${on}`),
        setPace: (pace) => void log.push(`pace ${pace}`),
        touch: (finger) => void log.push(`touch ${finger?.x}`),
        putCard: (card) => void log.push(card ? `card ${card.files.map(({ name }) => name).join()}` : 'no card'),
        turn: (steps) => void log.push(`turn ${steps}`),
        press: () => void log.push('press'),
        hand: (act) => void log.push(JSON.stringify(act)),
        recording: () => Promise.resolve(undefined),
      };
    },
    storeKept: () => Promise.resolve(),
    holdLink: () => Promise.resolve(() => undefined),
    say: (kind, text) => void log.push(`${kind}: ${text}`),
    offered: () => undefined,
    clock: () => now,
    every: () => () => undefined,
  });
  return { control, begun, log, kept: (screws = kept) => (kept = screws), seen: (look: BenchLook) => seen(look), line: (line: string, atS = 0) => hear(line, atS), later: (ms: number) => (now += ms) };
} // prettier-ignore

describe('a board that does not answer', () => {
  it('is mute until something can be read; noise is said to be noise', async () => {
    const { control, log, seen, line } = looked();
    await control.powerOn();
    const at = (nowS: number) =>
      seen({ nowS, view: { position: {}, temperatureC: {} } } as unknown as BenchLook);
    const mute = () => control.powered.now().mute;
    const asked = control.ask('M115');
    for (let s = 0; s < 5; s += 0.05) at(s);
    expect(mute()).toBeUndefined();
    // How it stands is asked first, by the window itself.
    at(5);
    expect(mute()).toBe('from the start');
    [5, 5.5, 6].forEach(at);
    expect((await asked).problem).toBe('no answer');
    expect(mute()).toBe('from the start');
    line('\u00f3\u0081\u00b7');
    expect(log.at(-1)).toBe('heard: (3 letters that cannot be read)');
    at(9);
    expect(mute()).toBe('from the start');
    line('awake store=fresh');
    expect(log.at(-1)).toBe('heard: awake store=fresh');
    at(12.1);
    line('lantern name="Plover"', 12.1);
    line('done', 12.1);
    at(12.5);
    expect(mute()).toBeUndefined();
    at(13.2);
    void control.ask('G28');
    for (let s = 14; s < 23; s += 0.1) at(s);
    line('meanwhile state doing=moving', 23);
    for (let s = 23; s < 32; s += 0.1) at(s);
    expect(mute()).toBeUndefined();
    at(33.5);
    expect(mute()).toBe('any more');
    control.powerOff();
    expect(mute()).toBeUndefined();
  });
});

describe('what outlives the power', () => {
  it('the place and warmth it was left in, with how long ago; the hands, the pace and the card', async () => {
    const { control, begun, log, seen, later } = looked();
    control.setPace(4);
    control.hand({ lay: 'current-low', on: true });
    control.putPrints([{ name: 'a.gcode', bytes: new Uint8Array([71]) }]);
    await control.powerOn();
    expect(begun[0]).toMatchObject({ begins: undefined, hands: [{ lay: 'current-low', on: true }] });
    expect(begun[0]?.state.image).toEqual(new Uint8Array([7, 8, 2]));
    expect(log).toEqual(expect.arrayContaining(['pace 4', 'card a.gcode']));
    const look = { nowS: 5, view: { position: { x: 1, y: 2, z: 3, e: 0 }, temperatureC: { hotend: 180 } } };
    seen(look as unknown as BenchLook);
    expect(control.powered.now().look).toBe(look);
    control.powerOff();
    later(2500);
    // What is seen of a machine whose power has gone is nothing.
    seen(look as unknown as BenchLook);
    expect(control.powered.now()).toMatchObject({ power: { state: 'off' }, pace: 4, prints: ['a.gcode'] });
    expect(control.powered.now().look).toBeUndefined();
    await control.powerOn();
    expect(begun[1]?.begins).toEqual({ ...look.view, offS: 2.5 });
    seen(look as unknown as BenchLook);
    control.powerOff();
    later(400);
    await control.powerOn();
    expect(begun[2]?.begins?.offS).toBe(0.4);
    control.hand({ lay: 'current-low', on: false });
    control.putPrints(undefined);
    control.powerOff();
    expect(control.powered.now()).toMatchObject({ hands: [] });
    expect(control.powered.now().prints).toBeUndefined();
  });

  it('screws stand as any window left them, and what is turned is kept or said not to be', async () => {
    const { control, begun, log, kept } = looked();
    const screw = (up: number) => ({ screw: 'back', x: 10, y: 20, up });
    kept([screw(0.4)]);
    await control.powerOn();
    expect(begun[0]?.hands).toEqual([screw(0.4)]);
    control.hand(screw(0.6));
    await settle();
    expect(kept()).toEqual([screw(0.6)]);
    await control.powerOn();
    expect(begun[1]?.hands).toEqual([screw(0.6)]);
    control.hand(screw(10));
    await settle();
    expect(log).toContain('done: How the screws were turned is known to this window alone: too far');
    expect(control.powered.now().hands).toEqual([screw(10)]);
  });

  it('knob, finger, hands and the stop go to the machine, past the queue; without power nowhere', async () => {
    const { control, log } = looked();
    control.stop();
    control.turn(1);
    expect(log).toEqual(['sent: M112']);
    expect(await control.recording()).toBeUndefined();
    await control.powerOn();
    log.length = 0;
    control.turn(-2);
    control.press();
    control.touch({ x: 4, y: 5 });
    control.touch(undefined);
    control.setStepping(true);
    void control.ask('G28', true);
    control.stop();
    expect(log).toEqual(['turn -2', 'press', 'touch 4', 'touch undefined', 'stepping true', 'sent: M112', 'M112']);
  }); // prettier-ignore

  it('a machine that cannot be read stays off, and says why', async () => {
    const { control, tape } = machine({ card: true, refuses: 'no way back is kept' });
    await control.powerOn();
    expect(control.powered.now().power.state).toBe('off');
    expect(tape).toContain('done: The power stays off: no way back is kept');
    expect(tape).not.toContain('done: Power off');
  });
});

describe('the link', () => {
  it('asks one thing at a time, and a stop goes past what waits', async () => {
    const { control, sent, mute } = machine();
    await control.powerOn();
    await settle();
    mute();
    const homing = control.ask('G28');
    void control.ask('M114');
    control.stop();
    expect(sent.slice(-2)).toEqual(['G28', 'M112']);
    control.powerOff();
    expect((await homing).problem).toBe('the power was switched off');
  });
  it('readings are kept with when they were heard, and forgotten with the power', async () => {
    const { control, say } = machine();
    await control.powerOn();
    say('meanwhile heat body=bed now=61.0 target=60.0 duty=0.40');
    say('awake store=fresh');
    expect(control.powered.now()).toMatchObject({
      readings: { 'heat bed': { heardAt: 1000, values: { now: '61.0' } } },
      store: 'fresh',
    });
    control.powerOff();
    expect(control.powered.now().readings).toEqual({});
    say('heat body=bed now=61.0 target=60.0 duty=0.40');
    expect(control.powered.now().readings).toEqual({});
  });
  it('without power there is no answer but that', async () => {
    const { control } = machine();
    expect(await control.ask('M114')).toEqual({ lines: [], problem: 'the power is off' });
  });
});
