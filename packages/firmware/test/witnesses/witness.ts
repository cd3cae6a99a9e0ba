import type { SettingValue } from '@jolly/core/kit/settingValue';
import type { Edit } from '@jolly/core/machine/edit';
import { own, type Talk } from '../fixtures/builtMachine';

/** What shows that an option is real: a machine built with two values of it, and what each then does. */
export interface Witness {
  key: string;
  /** Plover where nothing else is said. */
  machine?: 'plover' | 'bittern';
  values: readonly [SettingValue, SettingValue];
  /** What a machine does, as data; it must not be the same for both values. */
  shows: (talk: Talk) => unknown;
  /** How the machine stands beside that, and is built, for both. */
  with?: readonly Edit[];
}

/** Plover has so many parts; another one is added behind them. */
const PARTS = 17;

const added = (id: string, part: string, role: string, leads: Record<string, string>, nth = 0): Edit[] => [
  { path: ['parts', PARTS + nth], value: { id, part, role } },
  { path: ['harness', id], value: { leads } },
];

export const Z_SWITCH: Edit[] = [
  ...added('z-switch', 'lever-switch-nc', 'z', { signal: 'STOP-Z.3', ground: 'STOP-Z.2' }),
  { path: ['frame', 'switch_at', 'z'], value: 'min' },
];
export const LAMP = added('lamp', 'lamp-24', 'lamp', { supply: 'LAMP.1', control: 'LAMP.2' });
export const BOARD_FAN = added('board-fan', 'fan-24-40', 'board', { supply: 'FAN-3.1', control: 'FAN-3.2' });
export const REEL = added('reel', 'reel-switch', 'reel', { signal: 'FILAMENT.3', ground: 'FILAMENT.2' });
export const SPARE = added('spare-sensor', 't100-a', 'spare', { signal: 'TEMP-C.1', ground: 'TEMP-C.2' });
export const CHAMBER = [
  ...added('chamber-sensor', 't100-a', 'chamber', { signal: 'TEMP-C.1', ground: 'TEMP-C.2' }),
  ...added('chamber-heater', 'bed-24-150', 'chamber', { supply: 'LAMP.1', control: 'LAMP.2' }, 1),
];
/** As many servos as there can be; the board has a header for one of them. */
export const SERVOS: Edit[] = [
  ...added('servo-b', 'twig-servo', 'b', { control: 'SERVO.1', supply: 'SERVO.2', ground: 'SERVO.3' }),
  ...['c', 'd'].flatMap((name, index): Edit[] => [
    { path: ['parts', PARTS + 1 + index], value: { id: `servo-${name}`, part: 'twig-servo', role: name } },
    { path: ['pins', `servo-${name}`], value: { pin: 44 + index, because: 'test' } },
  ]),
];
/** Modules whose makers ask for long pulses. */
export const SLOW_DRIVERS: Edit[] = [4, 5, 6, 7].map((index) => ({
  path: ['parts', index, 'part'],
  value: 'dray-d1',
}));
/** A probe whose output only pulls down. */
export const PLUMB: Edit[] = [
  { path: ['parts', 16, 'part'], value: 'plumb' },
  {
    path: ['harness', 'probe'],
    value: { leads: { signal: 'PROBE.5', ground: 'PROBE.1', supply: 'PROBE.2' } },
  },
];
export const COLD_FEED = [own('extrude.from', 0)];
export const SMALL_MAP = [own('map.columns', 2), own('map.rows', 2), own('probe.touches', 1)];

export const DISPLAY = (part: 'slate-20' | 'pane-128' | 'vista-128'): Edit[] =>
  added('display', part, 'display', { supply: 'SHOW.2', ground: 'SHOW.1' });

/** Everything that can be switched on beside what Plover has. */
export const TRIED: Edit[] = [
  own('arcs.on', true),
  own('offsets.on', true),
  own('lead.on', true),
  own('filament.volumetric', true),
  own('map.shim', true),
  own('tilt.by', 'three-point'),
  own('beeper.on', true),
  own('resume.on', true),
  own('driver.report', true),
  own('extrude.from', 0),
];

/** The closing line of what is asked. */
export const closing = (line: string) => (talk: Talk) => talk.ask(line).at(-1);
/** The last answer to a row of lines. */
export const last =
  (...lines: string[]) =>
  (talk: Talk) =>
    lines.map((line) => talk.ask(line, 3000)).at(-1);
/** Everything the last of the lines answers, without what is told meanwhile. */
export const told =
  (...lines: string[]) =>
  (talk: Talk) =>
    last(...lines)(talk)?.filter((line) => !line.startsWith('meanwhile'));
/** What a look at the bench shows after the lines. */
export const seen =
  <T>(look: (truth: ReturnType<Talk['bench']['truth']>) => T, ...lines: string[]) =>
  (talk: Talk): T => {
    for (const line of lines) talk.ask(line, 3000);
    return look(talk.bench.truth());
  };
/** Seconds that the last of the lines takes, with the moves it begins, to a tenth. */
export const seconds =
  (...lines: string[]) =>
  (talk: Talk): number => {
    for (const line of lines.slice(0, -1)) talk.ask(line, 3000);
    talk.ask('M400');
    const from = talk.bench.nowS();
    talk.ask(lines.at(-1) ?? '', 3000);
    talk.ask('M400', 3000);
    return Math.round((talk.bench.nowS() - from) * 20) / 20;
  };
/** Time it takes to go through short moves one behind the other. */
export const zigzag =
  (...pair: [string, string]) =>
  (talk: Talk): number => {
    for (const line of ['G91', 'M400']) talk.ask(line);
    const from = talk.bench.nowS();
    for (let round = 0; round < 12; round += 1) for (const line of pair) talk.ask(line);
    talk.ask('M400');
    return Math.round((talk.bench.nowS() - from) * 50) / 50;
  };
/** Seconds until everything stops, 900 at most. */
export const stopsAfter = (talk: Talk): number => {
  const from = talk.bench.nowS();
  let from_line = 0;
  talk.bench.advanceUntil(() => {
    while (from_line < talk.heard.length) if (talk.heard[from_line++]?.startsWith('stopped')) return true;
    return false;
  }, 900);
  return Math.round(talk.bench.nowS() - from);
};
/** What is read of a floating input, many times. */
export const flicker = (line: string, word: RegExp) => (talk: Talk) =>
  [...new Set(Array.from({ length: 14 }, () => word.exec(talk.ask(line).join(' '))?.[1]))].sort();
