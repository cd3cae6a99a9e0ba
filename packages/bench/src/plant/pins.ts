/** Levels the firmware has written and how it has set each pin up. */
export interface Pins {
  level(pin: number): boolean;
  write(pin: number, high: boolean): void;
  setMode(pin: number, mode: number): void;
  pulledUp(pin: number): boolean;
}

const INPUT_PULL_UP = 1;

export function chipPins(): Pins {
  const levels = new Uint8Array(256);
  const modes = new Uint8Array(256);
  return {
    level: (pin) => levels[pin] === 1,
    write: (pin, high) => void (levels[pin] = high ? 1 : 0),
    setMode: (pin, mode) => void (modes[pin] = mode),
    pulledUp: (pin) => modes[pin] === INPUT_PULL_UP,
  };
}
