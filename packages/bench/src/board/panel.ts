import { type Facts, partsOf } from '@jolly/core/machine/facts';

/** What a display's memory holds: rows of letters, or eight rows of pixels a byte, row after row. */
export type DisplayLook =
  { shows: 'text'; rows: string[] } | { shows: 'pixel'; bytes: Uint8Array; columns: number };

/** Where a finger is on a display, each from 0 at the left or top to 1. */
export interface Finger {
  x: number;
  y: number;
}

/** A display and its knob or its layer that is touched, as the board sees them. */
export interface Panel {
  write(at: number, byte: number): void;
  turned(): number;
  pressed(): boolean;
  turn(steps: number): void;
  press(): void;
  /** Of a layer that is touched: 12 bits across, then 12 down, as it counts; -1 without a finger. */
  touched(): number;
  touch(finger: Finger | undefined): void;
  look(): DisplayLook | undefined;
  /** Of a display with a serial port of its own: what it is told, and its lines. */
  hear(byte: number): void;
  lines(): string[];
}

const COLUMNS = 20;
const ROWS = 4;
const PIXEL_COLUMNS = 128;
const PIXEL_BYTES = 1024;
const NEW_LINE = 10;
const NOBODY = -1;
/** A quick tap falls between two pulses of the bench: a finger stays until it was asked for so often. */
const LEAST_ASKED = 5;

/** What a layer says of a finger: it counts upwards from below, does not begin at nothing, and its sides are not quite straight. */
function layerSays({ x, y }: Finger): number {
  const across = Math.round(310 + 3420 * x + 40 * y);
  const down = Math.round(3710 - 3230 * y - 30 * x);
  return (across << 12) | down;
}

/** The display of a machine; what is written to one that is not plugged in is lost. */
export function panelOf(facts: Facts): Panel {
  const type = partsOf(facts, 'display').find(({ landing }) => landing !== undefined)?.type;
  const shows = type?.shows;
  const knob = shows !== undefined && !type?.touched;
  const memory = new Uint8Array(shows === 'pixel' ? PIXEL_BYTES : COLUMNS * ROWS);
  const told = new Map<string, string>();
  let text = '';
  let steps = 0;
  let presses = 0;
  let finger: Finger | undefined;
  let lifted = true;
  let asked = 0;
  return {
    write(at, byte) {
      if (shows && at < memory.length) memory[at] = byte & 0xff;
    },
    turned() {
      const since = steps;
      steps = 0;
      return since;
    },
    pressed() {
      if (presses === 0) return false;
      presses -= 1;
      return true;
    },
    hear(byte) {
      if (byte !== NEW_LINE) return void (text += String.fromCharCode(byte));
      const [, number = '', rest = ''] = /^(\d) (.*)$/.exec(text) ?? [];
      if (number) told.set(number, rest);
      text = '';
    },
    lines: () => [...told.values()],
    turn: (by) => void (knob && (steps += by)),
    press: () => void (knob && (presses += 1)),
    touched() {
      const here = finger;
      if (here && ++asked >= LEAST_ASKED && lifted) finger = undefined;
      return here ? layerSays(here) : NOBODY;
    },
    touch(at) {
      if (!type?.touched) return;
      lifted = at === undefined;
      if (at === undefined) return void (asked >= LEAST_ASKED && (finger = undefined));
      if (finger === undefined) asked = 0;
      finger = at;
    },
    look() {
      if (!shows) return undefined;
      if (shows === 'pixel') return { shows, bytes: memory.slice(), columns: PIXEL_COLUMNS };
      const letters = String.fromCharCode(...memory.map((byte) => byte || 32));
      return { shows, rows: Array.from({ length: ROWS }, (_, row) => letters.slice(row * COLUMNS, (row + 1) * COLUMNS)) }; // prettier-ignore
    },
  };
}

/** How many of the eight dots of a letter of Unicode's braille stand side by side, and above one another. */
const DOTS_ACROSS = 2;
const DOTS_DOWN = 4;
const BRAILLE = 0x2800;
/** Which dot of such a letter stands where, column by column from the top. */
const DOT = [[0x01, 0x02, 0x04, 0x40], [0x08, 0x10, 0x20, 0x80]]; // prettier-ignore

/** What a display shows, row by row; pixels as dots of braille, two side by side and four above one another. */
export function rowsOf(look: DisplayLook): string[] {
  if (look.shows === 'text') return look.rows;
  const { bytes, columns } = look;
  const lit = (x: number, y: number) => ((bytes[(y >> 3) * columns + x] ?? 0) >> (y & 7)) & 1;
  const letter = (left: number, top: number) =>
    String.fromCharCode(
      DOT.flatMap((dots, x) => dots.map((dot, y) => dot * lit(left + x, top + y))).reduce(
        (a, b) => a + b,
        BRAILLE,
      ),
    );
  const every = (most: number, step: number) => Array.from({ length: most / step }, (_, nth) => nth * step);
  return every((bytes.length / columns) * 8, DOTS_DOWN).map((top) =>
    every(columns, DOTS_ACROSS)
      .map((left) => letter(left, top))
      .join(''),
  );
}
