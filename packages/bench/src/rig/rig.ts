import { type CardRule, fixedName } from '@jolly/core/board/cardRule';
import { cardRouteOf } from '@jolly/core/board/route';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import { asSold, type Facts } from '@jolly/core/machine/facts';
import { certain } from '@jolly/core/tree/certain';
import { derive } from '@jolly/core/settings/derive';
import { testPrint } from '@jolly/core/slicer/testPrint';
import { boardHolding, powerOnWithCard } from '../board/board';
import { blankBoard, type BoardState } from '../board/boardState';
import { bootloaderOf } from '../board/bootloader';
import { type Finger, rowsOf } from '../board/panel';
import { type CardBlocks, cardBlocks } from '../board/cardBlocks';
import { type Bench, powerOn } from '../clock/bench';
import { around } from '../faults/around';
import { faultNamed } from '../faults/faults';
import type { Surroundings } from '../faults/fault';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { handsAt } from '../hands/hands';
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
  /**
   * Puts a card with these files into the slot, with a tray to print where none is named, or takes the card out when
   * missing. It stays over power-offs.
   */
  card(files?: readonly string[]): void;
  /** Works the display's knob: steps to the right, 0 for a press. */
  knob(steps: number): void;
  /** A finger on a display that is touched, each of x and y from 0 to 1; lifted when missing. */
  touch(finger: Finger | undefined): void;
  /** What the machine's own display shows, or was told last, row by row, pixels as dots; told as notices. */
  display(): void;
  truth(): Truth;
  nowS(): number;
  /** It stopped everything by itself at least once. */
  stoppedItself(): boolean;
}

const noFile = (name: string): never => {
  throw new Error(`there is no file ${name}`);
};
/** A board at work says so once a second: one that says nothing for so long gives no answer. */
const SILENT_S = 10;
const CLOSING = /^(done$|error:|stopped:)/;
const FILE_NAME = 'NEW';
const ANY_CARD: CardRule = { kind: 'any', extension: 'BIN', ignoresRepeat: false, renames: false };

/**
 * Flashes an image by the board's first route and leaves the machine switched off.
 * @param image as it was built
 * @param seed decides what facts leave open
 * @param read a file for the card, by its name; throws when there is none
 */
export function rigOf(
  facts: Facts,
  image: Uint8Array,
  seed: number,
  tell: (event: RigEvent) => void,
  read: (name: string) => Uint8Array = noFile,
): Rig {
  const plant: Plant = plantOf(facts, seed);
  const hands = handsAt(facts);
  const sold = asSold(facts);
  // What is tried here is the machine: a board that is sold bare has had its bootloader installed.
  let state: BoardState = { ...blankBoard(sold.chip), bootloader: bootloaderOf(sold.board) };
  let flashed = false;
  let bench: Bench | undefined;
  let prints: CardBlocks | undefined;
  let offAt = 0;
  let stopped = false;
  let closed = 0;
  let heardAt = 0;
  const now = () => bench?.nowS() ?? offAt;
  const notice = (text: string) => tell({ t: now(), notice: text });

  function hear(line: string): void {
    tell({ t: now(), reply: line });
    heardAt = now();
    if (CLOSING.test(line)) closed += 1;
    if (line.startsWith('stopped:') && !line.endsWith('asked by the host')) stopped = true;
  }

  /** What hands have done takes effect. */
  function apply(): void {
    hands.apply(plant.live);
    plant.rewire(now());
  }

  function act(what: HandAct): void {
    hands.take(what);
    apply();
  }

  function surroundings(): Surroundings {
    const route = cardRouteOf(facts.board);
    const { rule, max_card_gb: most } = route ?? { rule: ANY_CARD, max_card_gb: 8 };
    const name = rule.kind === 'fixed' ? fixedName(rule) : `${FILE_NAME}.${rule.extension}`;
    const card = { format: 'FAT32' as const, sizeGb: Math.min(8, most), files: [{ name, bytes: image }] };
    return around(facts, hands.laid(), { state, card });
  }

  function flash(at: Surroundings): void {
    const byCard = cardRouteOf(facts.board) !== undefined;
    const after = byCard ? powerOnWithCard(at.state, at.card, sold.board, sold.chip) : byWires(at);
    const { outcome } = after;
    if (!outcome.taken) notice(`the image was not taken: ${outcome.because}`);
    else if (at.toolFails) notice('the tool reports that writing failed');
    else notice(`the image was taken as ${outcome.name}`);
    state = after.state;
    flashed = after.outcome.taken;
  }

  /** Where no card is taken, wires write what lies ready, wherever its header wants to be. */
  function byWires(at: Surroundings): { state: BoardState; outcome: CardOutcome } {
    const { name, bytes } = certain(at.card.files[0], 'the image');
    const { image: held, bootloader, fromStart } = boardHolding(bytes, sold);
    const { fromStart: _, bootloader: __, ...rest } = at.state;
    const now = { ...rest, image: held, ...(fromStart ? { fromStart } : bootloader && { bootloader }) };
    return { state: now, outcome: { taken: true, name } };
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
      heardAt = now();
      while (closed === before && now() - heardAt < SILENT_S)
        at.advanceUntil(() => closed > before, heardAt + SILENT_S - now());
      if (closed === before) notice(`no answer: nothing was heard for ${SILENT_S} s`);
    },
    send: (line) => running().send(line),
    wait(seconds) {
      if (bench) bench.advance(seconds);
      else offAt += seconds;
    },
    press: (part, on) => act({ hold: part, on }),
    warm: (part, degrees) => act({ warm: part, c: degrees }),
    chill: (part, share) => act({ cool: part, share }),
    unplug: (lead) => act({ pull: lead, out: true }),
    lay(name) {
      act({ lay: name, on: true });
      // What lies around the machine counts when it is flashed the next time.
      if (faultNamed(name)?.around) flashed = false;
    },
    mend(name) {
      hands.takeBack(name);
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
    card(files) {
      const tray = () => new TextEncoder().encode(testPrint(facts, derive(facts)));
      const named = files?.map((path) => ({ name: path.replace(/^.*[/\\]/, ''), bytes: read(path) }));
      prints = named && cardBlocks(named.length > 0 ? named : [{ name: 'TRAY.GCO', bytes: tray() }]);
      bench?.putCard(prints);
    },
    knob(steps) {
      if (steps === 0) running().press();
      else running().turn(steps);
    },
    touch: (finger) => running().touch(finger),
    display() {
      const look = running().display();
      const rows = look ? rowsOf(look) : running().panelLines();
      if (rows.length === 0) throw new Error('the machine has no display, or it was told nothing yet');
      for (const row of rows) notice(`display |${row}|`);
    },
    truth: () => plant.truth(now()),
    nowS: now,
    stoppedItself: () => stopped,
  };
}
