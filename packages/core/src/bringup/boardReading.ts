import { parseReply, type Reply } from './reply';

/** What changes by itself on a running machine, by what it is of: `state`, `at`, `switch`, `heat hotend`, `heat bed`. */
export interface BoardReading {
  values: Reply['values'];
  /** When it was heard, in ms of the listener's clock. */
  heardAt: number;
}
export type BoardReadings = Readonly<Record<string, BoardReading>>;

/** A reading is old when it was not heard for so long, in ms. */
export const OLD_AFTER_MS = 3000;
/** Above this a body burns fingers, in °C. */
export const HOT_FROM_C = 50;

const WORDS = ['state', 'at', 'switch', 'heat'];
/** Lines the board says by itself while a command goes on begin with this. */
const MEANWHILE = /^meanwhile /;

export const isMeanwhile = (line: string): boolean => MEANWHILE.test(line);

/** The readings with what a line tells; the same when it tells none. */
export function withLine(readings: BoardReadings, line: string, now: number): BoardReadings {
  const { word, values } = parseReply(line.replace(MEANWHILE, ''));
  if (!WORDS.includes(word)) return readings;
  const key = word === 'heat' ? `heat ${values['body'] ?? ''}` : word;
  return { ...readings, [key]: { values, heardAt: now } };
}

const NAMES: Record<string, string> = { 'heat hotend': 'Hot end', 'heat bed': 'Bed' };
export const bodyInWords = (key: string): string => NAMES[key] ?? key.replace('heat ', '');

/** Whole seconds since a reading was heard, when that is too long ago to be trusted; undefined while it is fresh. */
export function ageS({ heardAt }: BoardReading, now: number): number | undefined {
  const age = now - heardAt;
  return age > OLD_AFTER_MS ? Math.floor(age / 1000) : undefined;
}

/** What is hot, being heated, or moving, as clauses: "hot end 198 → 200 °C", "bed 61 °C, off". */
export function underway(readings: BoardReadings): string[] {
  const heat = Object.entries(readings).flatMap(([key, { values }]) => {
    if (!key.startsWith('heat ')) return [];
    const [now, target] = [Number(values['now']), Number(values['target'])];
    if (!(now >= HOT_FROM_C) && !(target > 0)) return [];
    const asked = target > 0 ? ` → ${Math.round(target)} °C` : ' °C, off';
    return [`${bodyInWords(key).toLowerCase()} ${Math.round(now)}${asked}`];
  });
  const doing = readings['state']?.values['doing'];
  const moves = doing === 'moving' || doing === 'homing' ? [doing] : [];
  return [...moves, ...heat];
}

/** The place of each axis as the board has it; an axis that is not homed is nowhere known. */
export function placeInWords(values: BoardReading['values']): string {
  const axes = (['x', 'y', 'z'] as const).map((axis) => {
    const known = values['homed']?.includes(axis);
    return `${axis.toUpperCase()}\u00a0${known ? (values[axis] ?? '?') : '?'}`;
  });
  return `${axes.join(' ')}\u00a0mm`;
}
