import { asSold, type Facts } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { testPrint } from '@jolly/core/slicer/testPrint';
import { closesAnswer, SILENT_S } from '@jolly/core/bringup/answering';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { blankBoard, type BoardState } from '../board/boardState';
import { bootloaderOf } from '../board/bootloader';
import { type Finger, rowsOf } from '../board/panel';
import { type CardBlocks, cardBlocks } from '../board/cardBlocks';
import { type Bench, powerOn } from '../clock/bench';
import { faultNamed } from '../faults/faults';
import { handsAt } from '../hands/hands';
import { plantOf } from '../plant/plant';
import type { Truth } from '../plant/truth';
import { aroundFlash, flashedBy } from './rigFlash';

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

type FileReader = (name: string) => Uint8Array;

const noFile: FileReader = (name) => {
  throw new Error(`there is no file ${name}`);
};

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
  read: FileReader = noFile,
): Rig {
  return new MachineRig(facts, image, seed, tell, read);
}

class MachineRig implements Rig {
  private readonly plant;
  private readonly hands;
  private state: BoardState;
  private flashed = false;
  private bench: Bench | undefined;
  private prints: CardBlocks | undefined;
  private offAt = 0;
  private stopped = false;
  /** How many answers have ended, and when a line was heard last. */
  private closed = 0;
  private heardAt = 0;

  constructor(
    private readonly facts: Facts,
    private readonly image: Uint8Array,
    private readonly seed: number,
    private readonly tell: (event: RigEvent) => void,
    private readonly read: FileReader,
  ) {
    this.plant = plantOf(facts, seed);
    this.hands = handsAt(facts);
    // What is tried here is the machine: a board that is sold bare has had its bootloader installed.
    const sold = asSold(facts);
    this.state = { ...blankBoard(sold.chip), bootloader: bootloaderOf(sold.board) };
  }

  ask(line: string): void {
    const at = this.running();
    const before = this.closed;
    const answered = () => this.closed > before;
    at.send(line);
    this.heardAt = at.nowS();
    while (!answered() && at.nowS() - this.heardAt < SILENT_S)
      at.advanceUntil(answered, this.heardAt + SILENT_S - at.nowS());
    if (!answered()) this.notice(`no answer: nothing was heard for ${SILENT_S} s`);
  }

  send(line: string): void {
    this.running().send(line);
  }

  wait(seconds: number): void {
    if (this.bench) this.bench.advance(seconds);
    else this.offAt += seconds;
  }

  press(part: string, on: boolean): void {
    this.act({ hold: part, on });
  }

  warm(part: string, degrees: number): void {
    this.act({ warm: part, c: degrees });
  }

  chill(part: string, share: number): void {
    this.act({ cool: part, share });
  }

  unplug(lead: string): void {
    this.act({ pull: lead, out: true });
  }

  lay(fault: string): void {
    this.act({ lay: fault, on: true });
    // What lies around the machine counts when it is flashed the next time.
    if (faultNamed(fault)?.around) this.flashed = false;
  }

  mend(name: string): void {
    this.hands.takeBack(name);
    this.apply();
  }

  async power(on: boolean): Promise<void> {
    if (!on) this.powerOff();
    else if (!this.bench) await this.powerOn();
  }

  card(files?: readonly string[]): void {
    const named = files?.map((path) => ({ name: path.replace(/^.*[/\\]/, ''), bytes: this.read(path) }));
    this.prints = named && cardBlocks(named.length > 0 ? named : [this.tray()]);
    this.bench?.putCard(this.prints);
  }

  knob(steps: number): void {
    if (steps === 0) this.running().press();
    else this.running().turn(steps);
  }

  touch(finger: Finger | undefined): void {
    this.running().touch(finger);
  }

  display(): void {
    const look = this.running().display();
    const rows = look ? rowsOf(look) : this.running().panelLines();
    if (rows.length === 0) throw new Error('the machine has no display, or it was told nothing yet');
    for (const row of rows) this.notice(`display |${row}|`);
  }

  truth(): Truth {
    return this.plant.truth(this.nowS());
  }

  nowS(): number {
    return this.bench?.nowS() ?? this.offAt;
  }

  stoppedItself(): boolean {
    return this.stopped;
  }

  private powerOff(): void {
    if (!this.bench) return;
    this.offAt = this.bench.nowS();
    this.state = { ...this.state, store: this.bench.store() };
    this.bench = undefined;
    this.plant.off(this.offAt);
  }

  private async powerOn(): Promise<void> {
    const { facts, seed, plant, prints } = this;
    const at = aroundFlash(facts, this.image, this.state, this.hands.laid());
    if (!this.flashed) {
      const { state, outcome, told } = flashedBy(facts, at);
      this.notice(told);
      this.state = state;
      this.flashed = outcome.taken;
    }
    if (at.portHeld) this.notice('the port is held by another program: what the board says is not heard');
    const started = await powerOn({
      facts,
      state: this.state,
      seed,
      plant,
      ...(prints && { card: prints }),
      atS: this.offAt,
      ...(at.hostBaud !== undefined && { hostBaud: at.hostBaud }),
      onLine: (line) => void (at.portHeld || this.hear(line)),
      onNotice: (text) => this.notice(text),
    });
    if ('silent' in started.running) this.notice(`the board is silent: ${started.running.silent}`);
    this.bench = started;
  }

  private hear(line: string): void {
    this.tell({ t: this.nowS(), reply: line });
    this.heardAt = this.nowS();
    if (closesAnswer(line)) this.closed += 1;
    if (line.startsWith('stopped:') && !line.endsWith('asked by the host')) this.stopped = true;
  }

  private notice(text: string): void {
    this.tell({ t: this.nowS(), notice: text });
  }

  private act(what: HandAct): void {
    this.hands.take(what);
    this.apply();
  }

  /** What hands have done takes effect. */
  private apply(): void {
    this.hands.apply(this.plant.live);
    this.plant.rewire(this.nowS());
  }

  private running(): Bench {
    if (!this.bench) throw new Error('there is no power; @power on gives it');
    return this.bench;
  }

  private tray(): { name: string; bytes: Uint8Array } {
    const print = testPrint(this.facts, derive(this.facts));
    return { name: 'TRAY.GCO', bytes: new TextEncoder().encode(print) };
  }
}
