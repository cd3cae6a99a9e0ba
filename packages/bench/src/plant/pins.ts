/** Levels the firmware has written and how it has set each pin up. */
export interface Pins {
  level(pin: number): boolean;
  write(pin: number, high: boolean): void;
  setMode(pin: number, mode: number): void;
  pulledUp(pin: number): boolean;
  isOutput(pin: number): boolean;
  /** A timed output: the share of its period that it is high. */
  setPwm(pin: number, share: number): void;
  /** 0 to 1; of an output that is not timed its level. */
  duty(pin: number): number;
  /** As they are without power. */
  reset(): void;
}

const INPUT_PULL_UP = 1;
const OUTPUT = 2;

export function chipPins(): Pins {
  const levels = new Uint8Array(256);
  const modes = new Uint8Array(256);
  const shares = new Float64Array(256).fill(-1);
  return {
    level: (pin) => levels[pin] === 1,
    write: (pin, high) => {
      levels[pin] = high ? 1 : 0;
      shares[pin] = -1;
    },
    setMode: (pin, mode) => void (modes[pin] = mode),
    pulledUp: (pin) => modes[pin] === INPUT_PULL_UP,
    isOutput: (pin) => modes[pin] === OUTPUT,
    setPwm: (pin, share) => void (shares[pin] = share),
    duty: (pin) => {
      const share = shares[pin] ?? -1;
      return share >= 0 ? share : levels[pin] === 1 ? 1 : 0;
    },
    reset() {
      levels.fill(0);
      modes.fill(0);
      shares.fill(-1);
    },
  };
}
