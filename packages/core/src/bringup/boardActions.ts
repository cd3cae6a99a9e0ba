import { type Facts, partFor } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { notUnderstood } from '../settings/understands';
import { coldLines } from './heatLines';

/** Something the board can be told with one key: what it is called, the lines that are sent, and what they need. */
export interface BoardAction {
  label: string;
  lines: readonly string[];
  /** Said at last, even where a line was refused: a mode that was left would change what the next line means. */
  after?: readonly string[];
  /** What it can hurt, before it is done. */
  caution?: string;
}
/** Of a machine: what it says depends on what there is, and there may be nothing for it to do. */
type Offered = Omit<BoardAction, 'lines'> & {
  lines: readonly string[] | ((facts: Facts) => readonly string[]);
  with?: (settings: Settings) => boolean;
};
export interface ActionGroup {
  title: string;
  actions: readonly BoardAction[];
}

/** What is let out and drawn in is a pin; other probes have nothing of that. */
const withPin = (settings: Settings): boolean => settings.get('probe.kind')?.value === 'pin';

/** A line that heats the hot end, among others; there is none where no such heater is known. */
const heating =
  (line: string) =>
  (facts: Facts): readonly string[] =>
    partFor(facts, 'heater', 'hotend') ? [line] : [];

const GROUPS: readonly { title: string; actions: readonly Offered[] }[] = [
  {
    title: 'Move',
    actions: [
      { label: 'Home all', lines: ['G28'] },
      { label: 'X − 10', lines: ['G91', 'G1 X-10 F3000'], after: ['G90'] },
      { label: 'X + 10', lines: ['G91', 'G1 X10 F3000'], after: ['G90'] },
      { label: 'Y − 10', lines: ['G91', 'G1 Y-10 F3000'], after: ['G90'] },
      { label: 'Y + 10', lines: ['G91', 'G1 Y10 F3000'], after: ['G90'] },
      { label: 'Z − 1', lines: ['G91', 'G1 Z-1 F300'], after: ['G90'] },
      { label: 'Z + 1', lines: ['G91', 'G1 Z1 F300'], after: ['G90'] },
      { label: 'Motors off', lines: ['M84'] },
      { label: 'First extruder', lines: ['T0'] },
      { label: 'Second extruder', lines: ['T1'] },
    ],
  },
  {
    title: 'Heat',
    actions: [
      { label: 'Preheat one', lines: heating('preheat n=1') },
      { label: 'Preheat two', lines: heating('preheat n=2') },
      { label: 'Cool down', lines: coldLines },
      { label: 'Self-tune at 200 °C', lines: heating('tune h=0 c=200'), caution: 'The hot end gets hot: it burns fingers.' }, // prettier-ignore
    ],
  },
  {
    title: 'Fans and light',
    actions: [
      { label: 'Part fan on', lines: ['M106 S255'] },
      { label: 'Part fan half', lines: ['M106 S128'] },
      { label: 'Part fan off', lines: ['M107'] },
      { label: 'Lamp on', lines: ['lamp s=255'] },
      { label: 'Lamp off', lines: ['lamp s=0'] },
      { label: 'Beep', lines: ['M300 S880 P300'] },
    ],
  },
  {
    title: 'Probe and plate',
    actions: [
      { label: 'Probe out', lines: ['M401'], with: withPin },
      { label: 'Probe in', lines: ['M402'], with: withPin },
      { label: 'Repeatability', lines: ['repeat n=10'] },
      { label: 'Take the map', lines: ['map take'] },
      { label: 'Use the map', lines: ['map use'] },
      { label: 'Leave the map', lines: ['map drop'] },
      { label: 'Take the tilt', lines: ['tilt take'] },
      { label: 'Next corner', lines: ['tram'] },
    ],
  },
  {
    title: 'Print',
    actions: [
      { label: 'Files on the card', lines: ['card list'] },
      { label: 'Print the first', lines: ['card print n=1'] },
      { label: 'Pause', lines: ['pause'] },
      { label: 'Go on', lines: ['resume'] },
      { label: 'Draw filament out', lines: ['swap filament'] },
      { label: 'Feed filament', lines: ['prime'] },
      { label: 'End the print, heat off', lines: ['card stop', 'cool'] },
      { label: 'Go on after a power cut', lines: ['card resume'] },
    ],
  },
];

/** How a line begins, as a kit lists it: `G28`, `map take`. */
export const commandOf = (line: string): string =>
  /^[GMT]\d+/.exec(line)?.[0] ?? /^([a-z]+(?: [a-z]+(?!=))*)(?= [a-z]=|$)/.exec(line)?.[1] ?? line;

/** What can be told with one key, of what this kit with these settings knows; groups without any are left out. */
export function boardActions(facts: Facts, settings: Settings): ActionGroup[] {
  const understood = (line: string) => notUnderstood(facts, settings, commandOf(line)) === undefined;
  return GROUPS.flatMap(({ title, actions }) => {
    const known = actions.flatMap(({ with: has, lines: said, ...action }): BoardAction[] => {
      const lines = typeof said === 'function' ? said(facts).filter(understood) : said;
      const offered = lines.length > 0 && lines.every(understood) && has?.(settings) !== false;
      return offered ? [{ ...action, lines }] : [];
    });
    return known.length > 0 ? [{ title, actions: known }] : [];
  });
}
