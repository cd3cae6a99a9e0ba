import { bodyCalled } from '../machine/bodyCalled';
import { parseReply, type Reply } from './reply';

/** What changes by itself on a running machine, by what it is of: `state`, `at`, `heat hotend`, `driver x`, `map point 3`, … */
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

/** Words of lines that tell how something stands, and the value that says of which. */
const WORDS: Readonly<Record<string, string | undefined>> = {
  state: undefined,
  at: undefined,
  switch: undefined,
  heat: 'body',
  fan: undefined,
  servo: undefined,
  driver: 'axis',
  map: 'point',
  tilt: 'point',
  print: undefined,
  card: undefined,
  resume: undefined,
  filament: undefined,
};
/** Lines the board says by itself while a command goes on begin with this. */
const MEANWHILE = /^meanwhile /;

export const isMeanwhile = (line: string): boolean => MEANWHILE.test(line);

/** The readings with what a line tells; the same when it tells none. */
export function withLine(readings: BoardReadings, line: string, now: number): BoardReadings {
  const { word, values } = parseReply(line.replace(MEANWHILE, ''));
  if (!Object.hasOwn(WORDS, word)) return readings;
  const which = values[WORDS[word] ?? ''];
  // Rows of a map are told one by one, for whoever asks; they are no state.
  if (word === 'map' && which === undefined && values['state'] === undefined) return readings;
  const key = which === undefined ? word : `${word} ${WORDS[word] === 'point' ? 'point ' : ''}${which}`;
  const before = key === 'map point 1' ? withoutMap(readings) : readings;
  return { ...before, [key]: { values, heardAt: now } };
}

/** A map that is taken anew: what was told of the one before is old. */
const withoutMap = (readings: BoardReadings): BoardReadings =>
  Object.fromEntries(Object.entries(readings).filter(([key]) => !key.startsWith('map point')));

/** A height that was told of the plate while its map was taken, mm. */
export interface MapPoint {
  x: number;
  y: number;
  height: number;
}

/** The heights told since the last map was begun, in the order they were touched. */
export function mapPoints(readings: BoardReadings): MapPoint[] {
  return Object.entries(readings)
    .filter(([key]) => key.startsWith('map point'))
    .map(([, { values }]) => ({
      x: Number(values['x']),
      y: Number(values['y']),
      height: Number(values['height']),
    }));
}

/** The body a reading of heat is of, as a heading: `heat hotend` → "Hot end". */
export function bodyInWords(key: string): string {
  const called = bodyCalled(key.replace('heat ', ''));
  return `${called.charAt(0).toUpperCase()}${called.slice(1)}`;
}

/** Whole seconds since a reading was heard, when that is too long ago to be trusted; undefined while it is fresh. */
export function ageS({ heardAt }: BoardReading, now: number): number | undefined {
  const age = now - heardAt;
  return age > OLD_AFTER_MS ? Math.floor(age / 1000) : undefined;
}

/** A body that is hot or being heated, in °C as it was heard. */
interface Warm {
  body: string;
  now: number;
  target: number;
}

const warm = (readings: BoardReadings): Warm[] =>
  Object.entries(readings).flatMap(([key, { values }]) => {
    const [now, target] = [Number(values['now']), Number(values['target'])];
    if (!key.startsWith('heat ') || (!(now >= HOT_FROM_C) && !(target > 0))) return [];
    return [{ body: bodyInWords(key).toLowerCase(), now: Math.round(now), target: Math.round(target) }];
  });

const moving = (readings: BoardReadings): string[] => {
  const doing = readings['state']?.values['doing'];
  return doing === 'moving' || doing === 'homing' ? [doing] : [];
};

/** What is hot, being heated, or moving, as clauses: "hot end 198 → 200 °C", "bed 61 °C, off". */
export const underway = (readings: BoardReadings): string[] => [
  ...moving(readings),
  ...warm(readings).map(({ body, now, target }) =>
    target > 0 ? `${body} ${now} → ${target} °C` : `${body} ${now} °C, off`,
  ),
];

/** The same for the ear: it changes when something begins or ends, and not with every degree. */
export const underwaySpoken = (readings: BoardReadings): string[] => [
  ...moving(readings),
  ...warm(readings).map(({ body, target }) =>
    target > 0 ? `${body} heated to ${target} °C` : `${body} hot, off`,
  ),
];

/** What is kept hot, as clauses: "hot end at 200 °C". */
export const keptHot = (readings: BoardReadings): string[] =>
  Object.entries(readings).flatMap(([key, { values }]) => {
    const target = Number(values['target']);
    if (!key.startsWith('heat ') || !(target > 0)) return [];
    return [`${bodyInWords(key).toLowerCase()} at ${Math.round(target)}\u00a0°C`];
  });

/** The place of each axis as the board has it; an axis that is not homed is nowhere known. */
export function placeInWords(values: BoardReading['values']): string {
  const axes = (['x', 'y', 'z'] as const).map((axis) => {
    const known = values['homed']?.includes(axis);
    return `${axis.toUpperCase()}\u00a0${known ? (values[axis] ?? '?') : '?'}`;
  });
  return `${axes.join(' ')}\u00a0mm`;
}
