import type { Facts } from '@jolly/core/machine/facts';
import { HEATED } from '@jolly/core/machine/machine';
import { imagesOn } from '@jolly/core/flash/judgeCard';
import { derive } from '@jolly/core/settings/derive';
import { testPrint } from '@jolly/core/slicer/testPrint';
import { blankBoard, type BoardState, powerOnWithCard } from '../board/board';
import type { Finger } from '../board/panel';
import { type CardBlocks, cardBlocks } from '../board/cardBlocks';
import { type Bench, powerOn } from '../clock/bench';
import { faultNamed } from '../faults/faults';
import type { Surroundings } from '../faults/fault';
import { type Live, liveOf } from '../plant/live';
import { type Plant, plantOf } from '../plant/plant';
import type { Truth } from '../plant/truth';

/** Something that happened on the rig, at a time in s. */
export type RigEvent = { t: number } & ({ reply: string } | { notice: string } | { truth: Truth });

/** A machine on the bench with everything a person at it can do. Refuses with an error that says what was expected. */
export interface Rig {
  /** Sends a line and waits until the board has answered it. */
  ask(line: string): void;
  /** Sends a line and goes on. */
  send(line: string): void;
  wait(seconds: number): void;
  press(part: string, on: boolean): void;
  warm(part: string, degrees: number): void;
  chill(part: string, share: number): void;
  unplug(lead: string): void;
  lay(fault: string): void;
  /** Takes a fault, a held temperature, a chill or an unplugged lead back. */
  mend(name: string): void;
  power(on: boolean): Promise<void>;
  /** Puts a card with a tray to print into the slot, or takes the card out. It stays over power-offs. */
  card(put: boolean): void;
  /** Works the display's knob: steps to the right, 0 for a press. */
  knob(steps: number): void;
  /** A finger on a display that is touched, each of x and y from 0 to 1; lifted when missing. */
  touch(finger: Finger | undefined): void;
  /** What the machine's own display shows, row by row; told as a notice. */
  display(): void;
  truth(): Truth;
  nowS(): number;
  /** It stopped everything by itself at least once. */
  stoppedItself(): boolean;
}

const LONGEST_ANSWER_S = 7200;
const CLOSING = /^(done$|error:|stopped:)/;
const FILE_NAME = 'NEW';

/**
 * Flashes an image by the board's first route and leaves the machine switched off.
 * @param image as it was built; @param seed decides what facts leave open
 */
export function rigOf(facts: Facts, image: Uint8Array, seed: number, tell: (event: RigEvent) => void): Rig {
  const plant: Plant = plantOf(facts, seed);
  /** What was done to the machine, by the name it is taken back under. */
  const done = new Map<string, (live: Live) => void>();
  const laid = new Set<string>();
  let state: BoardState = blankBoard(facts.chip);
  let flashed = false;
  let bench: Bench | undefined;
  let prints: CardBlocks | undefined;
  let offAt = 0;
  let stopped = false;
  let closed = 0;
  const now = () => bench?.nowS() ?? offAt;
  const notice = (text: string) => tell({ t: now(), notice: text });

  function hear(line: string): void {
    tell({ t: now(), reply: line });
    if (CLOSING.test(line)) closed += 1;
    if (line.startsWith('stopped:') && !line.endsWith('asked by the host')) stopped = true;
  }

  /** The machine as its facts say, with all that was done to it since. */
  function apply(): void {
    Object.assign(plant.live, liveOf(facts));
    for (const act of done.values()) act(plant.live);
    for (const name of laid) faultNamed(name)?.inMachine?.(plant.live);
    plant.rewire(now());
  }

  function act(name: string, what: (live: Live) => void): void {
    done.set(name, what);
    apply();
  }

  function partNamed(name: string): string {
    if (facts.parts.some(({ id }) => id === name)) return name;
    throw new Error(`there is no part "${name}"; there are ${facts.parts.map(({ id }) => id).join(', ')}`);
  }

  /** The heated body that a heater or sensor belongs to. */
  const roleOf = (name: string): string | undefined => {
    const part = facts.parts.find(({ id }) => id === name);
    return part?.type.kind === 'heater' || part?.type.kind === 'thermistor' ? part.role : undefined;
  };

  /** A heated body by its own name, or by that of its heater or sensor. */
  function bodyOf(name: string): string {
    const body = HEATED.find((entry) => entry === name) ?? roleOf(name);
    if (body === undefined) throw new Error(`"${name}" is neither heater, sensor, ${HEATED.join(' nor ')}`);
    return body;
  }

  function surroundings(): Surroundings {
    const [route] = facts.board.routes;
    const { rule } = route;
    const stem = rule.kind === 'fixed' ? rule.name : FILE_NAME;
    const files = [{ name: `${stem}.${rule.extension}`, bytes: image }];
    const at: Surroundings = {
      card: { format: 'FAT32', sizeGb: Math.min(8, route.max_card_gb), files },
      state,
      hostBaud: undefined,
      portHeld: false,
      toolFails: false,
    };
    for (const name of laid) faultNamed(name)?.around?.(at, facts);
    return at;
  }

  function flash(at: Surroundings): void {
    const after = powerOnWithCard(at.state, at.card, facts.board, facts.chip);
    if (!after.outcome.taken) notice(`the image was not taken: ${after.outcome.because}`);
    else if (at.toolFails) notice('the tool reports that writing failed');
    else
      notice(`the image was taken as ${imagesOn(at.card.files, facts.board.routes[0])[0]?.name ?? 'a file'}`);
    state = after.state;
    flashed = after.outcome.taken;
  }

  const running = (): Bench => {
    if (!bench) throw new Error('there is no power; @power on gives it');
    return bench;
  };

  return {
    ask(line) {
      const at = running();
      const before = closed;
      at.send(line);
      if (!at.advanceUntil(() => closed > before, LONGEST_ANSWER_S))
        notice(`no answer within ${LONGEST_ANSWER_S} s`);
    },
    send: (line) => running().send(line),
    wait(seconds) {
      if (bench) bench.advance(seconds);
      else offAt += seconds;
    },
    press(part, on) {
      const id = partNamed(part);
      if (on) act(`press ${id}`, (live) => live.held.add(id));
      else {
        done.delete(`press ${id}`);
        apply();
      }
    },
    warm: (part, degrees) => {
      const body = bodyOf(part);
      act(body, (live) => live.warmed.set(body, degrees));
    },
    chill: (part, share) => {
      const body = bodyOf(part);
      act(body, (live) => live.chilled.set(body, share));
    },
    unplug(lead) {
      const [name = '', role] = lead.split('.');
      const id = partNamed(name);
      if (role !== undefined && !(role in (plant.live.leads.get(id) ?? {})))
        throw new Error(
          `${id} has no lead "${role}"; it has ${Object.keys(plant.live.leads.get(id) ?? {}).join(', ')}`,
        );
      act(lead, (live) => {
        // By role, as every lead.
        const { [role ?? '']: _gone, ...left } = { ...live.leads.get(id) } as Record<string, string>;
        live.leads.set(id, role === undefined ? {} : left);
      });
    },
    lay(name) {
      if (!faultNamed(name)) throw new Error(`there is no fault "${name}"`);
      laid.add(name);
      // What lies around the machine counts when it is flashed the next time.
      if (faultNamed(name)?.around) flashed = false;
      apply();
    },
    mend(name) {
      const known = [name, roleOf(name) ?? name].filter((entry) => laid.delete(entry) || done.delete(entry));
      if (known.length === 0) throw new Error(`nothing is wrong with "${name}"`);
      apply();
    },
    async power(on) {
      if (!on) {
        if (!bench) return;
        offAt = bench.nowS();
        state = { ...state, store: bench.store() };
        bench = undefined;
        plant.off(offAt);
        return;
      }
      if (bench) return;
      const at = surroundings();
      if (!flashed) flash(at);
      if (at.portHeld) notice('the port is held by another program: what the board says is not heard');
      const started = await powerOn({
        facts,
        state,
        seed,
        plant,
        ...(prints && { card: prints }),
        atS: offAt,
        ...(at.hostBaud !== undefined && { hostBaud: at.hostBaud }),
        onLine: (line) => void (at.portHeld || hear(line)),
        onNotice: notice,
      });
      if ('silent' in started.running) notice(`the board is silent: ${started.running.silent}`);
      bench = started;
    },
    card(put) {
      const text = testPrint(facts, derive(facts));
      prints = put ? cardBlocks([{ name: 'TRAY.GCO', bytes: new TextEncoder().encode(text) }]) : undefined;
      bench?.putCard(prints);
    },
    knob(steps) {
      if (steps === 0) running().press();
      else running().turn(steps);
    },
    touch: (finger) => running().touch(finger),
    display() {
      const look = running().display();
      if (!look) throw new Error('the machine has no display');
      if (look.shows === 'pixel')
        throw new Error('the display shows pixels; only rows of letters can be told');
      for (const row of look.rows) notice(`display |${row}|`);
    },
    truth: () => plant.truth(now()),
    nowS: now,
    stoppedItself: () => stopped,
  };
}
