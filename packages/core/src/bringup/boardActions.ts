import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { notUnderstood } from '../settings/understands';

/** Something the board can be told with one key: what it is called, the lines that are sent, and what they need. */
export interface BoardAction {
  label: string;
  lines: readonly string[];
  /** What it can hurt, before it is done. */
  caution?: string;
}
export interface ActionGroup {
  title: string;
  actions: readonly BoardAction[];
}

const GROUPS: readonly ActionGroup[] = [
  {
    title: 'Move',
    actions: [
      { label: 'Home all', lines: ['G28'] },
      { label: 'X − 10', lines: ['G91', 'G1 X-10 F3000', 'G90'] },
      { label: 'X + 10', lines: ['G91', 'G1 X10 F3000', 'G90'] },
      { label: 'Y − 10', lines: ['G91', 'G1 Y-10 F3000', 'G90'] },
      { label: 'Y + 10', lines: ['G91', 'G1 Y10 F3000', 'G90'] },
      { label: 'Z − 1', lines: ['G91', 'G1 Z-1 F300', 'G90'] },
      { label: 'Z + 1', lines: ['G91', 'G1 Z1 F300', 'G90'] },
      { label: 'Motors off', lines: ['M84'] },
    ],
  },
  {
    title: 'Heat',
    actions: [
      { label: 'Preheat one', lines: ['preheat n=1'] },
      { label: 'Preheat two', lines: ['preheat n=2'] },
      { label: 'Cool down', lines: ['M104 S0', 'M140 S0'] },
      { label: 'Self-tune at 200 °C', lines: ['tune h=0 c=200'], caution: 'The hot end gets hot: it burns fingers.' }, // prettier-ignore
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
      { label: 'Probe out', lines: ['M401'] },
      { label: 'Probe in', lines: ['M402'] },
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
      { label: 'End the print', lines: ['card stop'] },
      { label: 'Go on after a power cut', lines: ['card resume'] },
    ],
  },
];

/** How a line begins, as a kit lists it: `G28`, `map take`. */
export const commandOf = (line: string): string =>
  /^[GMT]\d+/.exec(line)?.[0] ?? /^([a-z]+(?: [a-z]+(?!=))*)(?= [a-z]=|$)/.exec(line)?.[1] ?? line;

/** What can be told with one key, of what this kit with these settings knows; groups without any are left out. */
export function boardActions(facts: Facts, settings: Settings): ActionGroup[] {
  return GROUPS.flatMap(({ title, actions }) => {
    const known = actions.filter(({ lines }) =>
      lines.every((line) => notUnderstood(facts, settings, commandOf(line)) === undefined),
    );
    return known.length > 0 ? [{ title, actions: known }] : [];
  });
}
