import type { Header } from '@jolly/core/board/board';

export interface Chosen {
  /** Its place in the list: a header keeps it under another name. */
  header: number;
  /** From 0; undefined where the header as a whole is meant. */
  contact?: number | undefined;
}

/** A place of the board or a way over it, in mm from its left front corner. */
export type At = { x: number; y: number };

/** What is done with what is chosen on the drawing of a board. */
export interface CanvasActs {
  onChoose: (chosen: Chosen | undefined) => void;
  onHeader: (header: number, part: Partial<Header>) => void;
  onCopy: (header: number) => void;
  onNet: (chosen: Chosen, net: string) => void;
  /** Numbers on: the next pin of its kind into the chosen contact. */
  onNext: (chosen: Chosen, kind: 'sig' | 'sw') => void;
}

/** Keys that say what the chosen contact is. */
const NET_KEYS: Readonly<Record<string, string>> = { g: 'gnd', '5': '5v', '3': '3v3', '1': '12v', v: 'vin', x: 'nc', '?': '?' }; // prettier-ignore
const ARROWS: Readonly<Record<string, At>> = { ArrowLeft: { x: -1, y: 0 }, ArrowRight: { x: 1, y: 0 }, ArrowUp: { x: 0, y: 1 }, ArrowDown: { x: 0, y: -1 } }; // prettier-ignore

/** How far an arrow key moves a header, in mm: by itself, with Shift, with Alt. */
export const STEP = 0.5;
const LEAP = 5;
const HAIR = 0.1;
export const tenth = (value: number): number => Math.round(value * 10) / 10;

type Key = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>;

/** Does what a key stands for. @returns whether it stands for anything here */
export function keyed(
  event: Key,
  headers: readonly Header[],
  chosen: Chosen | undefined,
  acts: CanvasActs,
): boolean {
  const { key } = event;
  if (event.ctrlKey || event.metaKey) return false;
  if (key === 'PageDown' || key === 'PageUp') {
    step(headers.length, chosen, key === 'PageDown' ? 1 : -1, acts);
    return true;
  }
  const header = chosen && headers[chosen.header];
  if (!header) return false;
  const way = Object.hasOwn(ARROWS, key) ? ARROWS[key] : undefined;
  if (way) {
    const by = event.shiftKey ? LEAP : event.altKey ? HAIR : STEP;
    const at_mm = { x: tenth(header.at_mm.x + way.x * by), y: tenth(header.at_mm.y + way.y * by) };
    acts.onHeader(chosen.header, { at_mm });
  } else if (key === 'r') acts.onHeader(chosen.header, { runs: header.runs === 'up' ? 'right' : 'up' });
  else if (key === 'c') acts.onCopy(chosen.header);
  else if (key === '.' || key === ',')
    acts.onChoose({ header: chosen.header, contact: contactBeside(header, chosen.contact ?? -1, key) });
  else return named(key, chosen, acts);
  return true;
}

function step(count: number, chosen: Chosen | undefined, by: number, { onChoose }: CanvasActs): void {
  const from = chosen?.header ?? (by > 0 ? -1 : 0);
  if (count > 0) onChoose({ header: (from + by + count) % count, contact: 0 });
}

const contactBeside = ({ contacts }: Header, at: number, key: '.' | ','): number =>
  Math.min(contacts.length - 1, Math.max(0, at + (key === '.' ? 1 : -1)));

function named(key: string, chosen: Chosen, { onNet, onNext }: CanvasActs): boolean {
  const net = Object.hasOwn(NET_KEYS, key) ? NET_KEYS[key] : undefined;
  if (net !== undefined) onNet(chosen, net);
  else if (key === 's' || key === 'w') onNext(chosen, key === 's' ? 'sig' : 'sw');
  else return false;
  return true;
}
