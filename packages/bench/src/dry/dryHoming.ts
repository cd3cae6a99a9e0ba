import { closesAnswer } from '@jolly/core/bringup/answering';
import { type Facts } from '@jolly/core/machine/facts';
import { AXES, type Axis } from '@jolly/core/machine/machine';
import type { Bench } from '../clock/bench';
import { dryBoard } from './dryBoard';
import type { PlantView } from '../plant/truth';

/** Where the machine stood at a moment of the run. */
export type Place = PlantView['position'];

/** How one axis fared. */
export interface HomingLeg {
  axis: Axis;
  /** `stopped` and `refused` with the image's own words in `what`; `hangs` when it said nothing. */
  outcome: 'met' | 'stopped' | 'refused' | 'hangs';
  /** What happened: the image's reply, and where the machine really ended. */
  what: string;
  /** True place at the start, at the end, and on the way. */
  path: Place[];
  /** Depth in mm the nozzle was pushed into the plate. */
  nozzleInPlateMm: number;
}

const BOOTED_S = 0.1;
/** How often a place is noted down, and for how long an axis may home, in s. */
const NOTED_S = 0.05;
const LONGEST_S = 600;

/**
 * Homes a machine on the bench with the image that was built from its settings, axis by axis: what would be met before
 * any real motor turns. The plant follows the facts, so that a setting against them behaves wrong.
 */
export async function dryHoming(facts: Facts, image: Uint8Array, seed = 1): Promise<HomingLeg[]> {
  const { bench, heard } = await dryBoard(facts, image, seed);
  bench.advance(BOOTED_S);
  return AXES.map((axis) => homeAxis(bench, heard, axis));
}

function homeAxis(bench: Bench, heard: string[], axis: Axis): HomingLeg {
  const path = [bench.view().position];
  const before = bench.view();
  const from = heard.length;
  const reply = () => heard.slice(from).find(closesAnswer);
  // After one axis has stopped everything the others are still worth trying.
  bench.send('wake');
  bench.advance(BOOTED_S);
  heard.length = from;
  bench.send(`G28 ${axis.toUpperCase()}`);
  for (let passed = 0; passed < LONGEST_S && !bench.advanceUntil(() => reply() !== undefined, NOTED_S);)
    passed = note(path, bench, passed);
  path.push(bench.view().position);
  const after = bench.view();
  const said = reply();
  return {
    axis,
    outcome: outcomeOf(said),
    what: inWords(axis, said, path, after.blocked[axis] - before.blocked[axis]),
    path,
    nozzleInPlateMm: after.nozzleInPlateMm,
  };
}

function note(path: Place[], bench: Bench, passed: number): number {
  path.push(bench.view().position);
  return passed + NOTED_S;
}

function outcomeOf(said: string | undefined): HomingLeg['outcome'] {
  if (said === undefined) return 'hangs';
  if (said === 'done') return 'met';
  return said.startsWith('error') ? 'refused' : 'stopped';
}

function inWords(axis: Axis, said: string | undefined, path: Place[], blocked: number): string {
  const upper = axis.toUpperCase();
  const places = path.map((place) => place[axis]);
  const first = places[0] ?? 0;
  const last = places.at(-1) ?? 0;
  const gone = places.reduce((sum, place, index) => sum + Math.abs(place - (places[index - 1] ?? place)), 0);
  const ended = `it stands at ${last.toFixed(1)} mm`;
  const rammed = blocked > 0 ? `, after ${blocked} steps against the frame` : '';
  if (said === undefined)
    return `${upper}: the image did not answer within ${LONGEST_S} s; ${ended}${rammed}.`;
  if (said === 'done') return `${upper} is homed: it began at ${first.toFixed(1)} mm, went ${gone.toFixed(0)} mm, and stands at ${last.toFixed(1)} mm${rammed}.`; // prettier-ignore
  const words = said.replace(/^(error|stopped): /, '');
  return said.startsWith('error')
    ? `${upper} was not begun. The image says: ${words}.`
    : `${upper} stopped everything. The image says: ${words}; ${ended}${rammed}.`;
}
