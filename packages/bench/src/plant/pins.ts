const INPUT_PULL_UP = 1;
const OUTPUT = 2;

/** Levels the firmware has written and how it has set each pin up. */
export class Pins {
  private readonly levels = new Uint8Array(256);
  private readonly modes = new Uint8Array(256);
  private readonly shares = new Float64Array(256).fill(-1);

  level(pin: number): boolean {
    return this.levels[pin] === 1;
  }

  write(pin: number, high: boolean): void {
    this.levels[pin] = high ? 1 : 0;
    this.shares[pin] = -1;
  }

  setMode(pin: number, mode: number): void {
    this.modes[pin] = mode;
  }

  pulledUp(pin: number): boolean {
    return this.modes[pin] === INPUT_PULL_UP;
  }

  isOutput(pin: number): boolean {
    return this.modes[pin] === OUTPUT;
  }

  /** A timed output: the share of its period that it is high. */
  setPwm(pin: number, share: number): void {
    this.shares[pin] = share;
  }

  /** 0 to 1; of an output that is not timed its level. */
  duty(pin: number): number {
    const share = this.shares[pin] ?? -1;
    return share >= 0 ? share : this.levels[pin] === 1 ? 1 : 0;
  }

  /** As they are without power. */
  reset(): void {
    this.levels.fill(0);
    this.modes.fill(0);
    this.shares.fill(-1);
  }
}
