import { whyOf } from '@jolly/core/text/whyOf';
import type { RunPlayer } from '../board/runs';
import { type Entry, type Firmware, Watchdog, WATCHDOG_S } from '../firmware/firmware';
import { type BoardTime, NS_PER_S, TICK_NS } from './boardTime';
import type { HostLine } from './hostLine';

/** The chip is told to be behind at most so often, and not before it is so many ticks late. */
const BEHIND_EVERY_NS = 1e9;
const BEHIND_TICKS = 2;

/** A chip and what runs on it: enters the firmware whenever something happens. */
export class RunningChip {
  private firmware: Firmware | undefined;
  private crashed = false;
  private behindTold = -Infinity;

  /** @param cycleNs what a cycle of the chip takes */
  constructor(
    private readonly time: BoardTime,
    private readonly player: RunPlayer,
    private readonly host: HostLine,
    private readonly cycleNs: number,
    private readonly notice: (text: string) => void,
  ) {}

  start(firmware: Firmware): void {
    this.firmware = firmware;
    this.enter('start');
  }

  /** Lets time pass until so many ns, or until `reached` is true after something happened; says whether it is. */
  run(until: number, reached?: () => boolean): boolean {
    const { time, player, host } = this;
    const { wire } = host;
    while (this.firmware && !this.crashed) {
      const runsAt = player.nextCall();
      const serialAt = wire.nextCall();
      const at = Math.min(runsAt, serialAt, time.tickAt);
      if (at > until || time.busyUntil > until) break;
      // Of what comes at one time segments are first: they may not wait for a tick.
      this.happen(at === runsAt ? 'runs' : at === serialAt ? 'serial' : 'tick', at);
      host.handOverUntil(time.now);
      if (reached?.()) return true;
    }
    // What plays is not looked at here: where a stretch of time was cut must not change what comes.
    time.now = Math.max(time.now, until);
    host.handOverUntil(time.now);
    return reached?.() ?? false;
  }

  stackUsed(): number {
    return this.firmware?.stackUsed() ?? 0;
  }

  private happen(entry: Entry, at: number): void {
    const { time } = this;
    time.now = Math.max(at, time.busyUntil, time.now);
    this.tellBehind(time.now - at);
    if (entry === 'runs') this.player.called();
    if (entry === 'serial') this.host.wire.arrive(time.now);
    // Ticks that were missed are not made up for.
    if (entry === 'tick') time.tickAt = Math.max(time.tickAt + TICK_NS, time.now);
    this.enter(entry);
    if (!this.crashed && time.now - time.fedAt > WATCHDOG_S * NS_PER_S)
      this.crash('its watchdog was not fed');
  }

  /** Enters the firmware; what it does takes its time. */
  private enter(entry: Entry): void {
    const { time, firmware } = this;
    if (!firmware || this.crashed) return;
    try {
      time.waited = 0;
      const took = firmware.enter(entry) * this.cycleNs + time.waited;
      time.worked += took;
      time.busyUntil = Math.max(time.busyUntil, time.now) + took;
    } catch (error) {
      this.crash(error instanceof Watchdog ? error.message : whyOf(error));
    }
  }

  private crash(why: string): void {
    this.crashed = true;
    this.player.halt(this.time.now);
    this.notice(`the board hangs: ${why}`);
  }

  private tellBehind(lateNs: number): void {
    if (lateNs < BEHIND_TICKS * TICK_NS || this.time.now - this.behindTold < BEHIND_EVERY_NS) return;
    this.behindTold = this.time.now;
    this.notice(`the chip cannot keep up: it is ${(lateNs / 1e6).toFixed(1)} ms behind`);
  }
}
