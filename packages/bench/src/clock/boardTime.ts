export const NS_PER_S = 1e9;
export const TICK_NS = 1e6;

/**
 * The clock of a powered board, and what its chip does with it, in ns. A class with fields: each value of a variable that
 * functions share is a new number in memory.
 */
export class BoardTime {
  now: number;
  tickAt: number;
  /** The chip works until then; whatever comes meanwhile waits. */
  busyUntil = 0;
  worked = 0;
  /** What the firmware waits for takes its time. */
  waited = 0;
  /** Its watchdog was fed last. */
  fedAt: number;

  /** @param began when the power came on */
  constructor(readonly began: number) {
    this.now = began;
    this.tickAt = began + TICK_NS;
    this.fedAt = began;
  }

  seconds(): number {
    return this.now / NS_PER_S;
  }
}
