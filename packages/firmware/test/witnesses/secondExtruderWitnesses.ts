import type { Edit } from '@jolly/core/machine/edit';
import { own, type Talk } from '../fixtures/builtMachine';
import { TWO_EXTRUDERS } from '../../../core/test/fixtures/twoExtruders';
import { TOLD } from './driverWitnesses';
import { type Body, guarded, steered } from './heatWitnesses';
import { closing, last, seconds, seen, type Witness, zigzag } from './witness';

/** Bittern's, fed cold. */
const FED: Edit[] = [...TWO_EXTRUDERS, own('extrude.from', 0)];
/** A second extruder whose module hears its current. */
const TOLD_SECOND: Edit[] = [
  ...TWO_EXTRUDERS,
  own('extrude.from', 0),
  { path: ['parts', 17, 'part'], value: 'hush-wire' },
  { path: ['jumpers'], value: Object.fromEntries(['S1', 'S2', 'S4', 'S5'].map((socket) => [`MODE-${socket}`, 'bridged'])) },
  ...TOLD,
]; // prettier-ignore
const fed = (...lines: string[]) => seen(({ secondFilamentMm }) => Math.round(secondFilamentMm), 'T1', ...lines, 'M400'); // prettier-ignore

/** Its hot end. */
const HOT: Body = { key: 'second-hotend', body: 'hotend-2', heater: 'e2-heater', say: 'M104 T1', targetC: 200, soft: 14 }; // prettier-ignore

/** How much of it has gone while a long line is under way. */
function halfWay(talk: Talk): number {
  last('G28', 'T1', 'G1 X10 Y100 F9000', 'M400', 'G1 X190 E30 F3000')(talk);
  talk.bench.advance(1.5);
  return Math.round(talk.bench.truth().secondFilamentMm * 10);
}

const ROWS: Omit<Witness, 'machine'>[] = [
  { key: 'extruder.second', values: [false, true], shows: (talk) => [closing('T1')(talk), fed('G1 E5 F300')(talk)] }, // prettier-ignore
  { key: 'steps.second-e', values: [80, 160], shows: fed('G1 E5 F300') }, // prettier-ignore
  { key: 'direction.second-e', values: [false, true], shows: fed('G1 E5 F300') }, // prettier-ignore
  // Too little to turn it.
  { key: 'current.second-e', values: [0.05, 0.8], with: TOLD_SECOND, shows: fed('G1 E20 F1200') }, // prettier-ignore
  { key: 'speed.second-e', values: [2, 40], shows: seconds('T1', 'G91', 'G1 E9 F6000') },
  { key: 'accel.second-e', values: [20, 2000], shows: seconds('T1', 'G91', 'G1 E9 F6000') },
  { key: 'corner.jolt.second-e', values: [0.3, 20], with: [...FED, own('corner.by', 'jolt')], shows: (talk) => { talk.ask('T1'); return zigzag('G1 X2 E1 F3000', 'G1 X2 E-1')(talk); } }, // prettier-ignore
  { key: 'lead.time.second-e', values: [0.02, 0.4], with: [...FED, own('lead.on', true)], shows: halfWay },
  ...guarded(HOT, FED),
  ...steered(HOT, FED),
];

export const secondExtruderWitnesses = ROWS.map((row): Witness => ({
  with: FED,
  ...row,
  machine: 'bittern',
}));
