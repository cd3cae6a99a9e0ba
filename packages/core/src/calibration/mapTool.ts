import { mapPoints, type MapPoint, withLine, type BoardReadings } from '../bringup/boardReading';
import { type Answer, ask, type Procedure } from '../bringup/procedure';
import { type Facts, partsOf } from '../machine/facts';
import { type Heights, rangeOf } from '../plate/heights';
import { mapShape } from '../plate/mapShape';
import { planeFit } from '../plate/planeFit';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import {
  type CalibrationTool,
  endedBy,
  type Found,
  found,
  missingOf,
  numberIn,
  round,
} from './calibrationTool';
import { descend } from './descend';
import { gridsEnough } from './gridsEnough';
import { homeAll, lift, temperatures, warmUp } from './warmUp';

/** A map that has to carry more than this asks for the screws first, mm. */
export const CARRIES_MM = 1;

/** Shapes that are things; any other is how the plate is. */
const SHAPE_IN_WORDS: Readonly<Record<string, string>> = { bowl: 'a bowl', dome: 'a dome' };

/** The plate's heights, by the probe or by a shim point by point. */
export function mapTool(facts: Facts, settings: Settings): CalibrationTool {
  const byProbe = partsOf(facts, 'probe')[0] !== undefined;
  const missing = missingOf(facts, settings, byProbe ? ['map take'] : ['map shim', 'map next']);
  const tool: CalibrationTool = {
    id: 'map',
    title: byProbe ? 'Map of the plate' : 'Map of the plate, by shim',
    what: 'The plate’s shape, warm, for the nozzle to follow. Take it after the screws are trammed; again after another plate, a job on frame or probe, or when first layers lie apart on one side.',
    toHand: byProbe ? ['The plate warm through, clean, and empty'] : ['A shim', 'The plate warm through, clean, and empty', 'Some patience: every point is felt'],
    caution: 'The head moves down onto the plate at every point. Keep a hand on the power switch.',
    choosing: [
      ...temperatures(facts, settings),
      ...(byProbe ? [] : [{ key: 'shimMm', label: 'The shim is', unit: 'mm', range: [0.02, 1] as const, value: 0.1 }]),
    ],
    after: ['home', ...(byProbe ? ['probe'] : [])],
    ...(missing && { missing }),
    *run(chosen) {
      const ended = (yield* warmUp(tool, chosen)) ?? (yield* homeAll());
      if (ended) return endedBy(ended);
      const taken = byProbe ? yield* byTouch() : yield* byShim(numberIn(tool, chosen, 'shimMm'));
      if ('ended' in taken) {
        yield* lift();
        return byProbe ? { ...endedBy(taken.ended), ...outOfReach(taken.ended) } : endedBy(taken.ended);
      }
      const map = heightsOf(taken.points);
      if (!map) return found('The map has holes: the board did not tell a height for each point. Nothing was set.', { evidence: [`${taken.points.length} points were told`] }, 'poor');
      return judged(facts, settings, map);
    },
  };
  return tool;
} // prettier-ignore

/** The area is the image's, the offset the board's: where the one was measured anew, the other may not fit it. */
const outOfReach = ({ problem }: Answer): Pick<Found, 'causes'> =>
  problem?.includes('the probe does not reach there') === true
    ? {
        causes: [
          {
            cause: 'The image has its map area from an offset of the probe that was another one',
            look: 'Look at the map area in Settings, then build and flash anew.',
          },
        ],
      }
    : {};

const pointsIn = (lines: readonly string[]): MapPoint[] =>
  mapPoints(lines.reduce<BoardReadings>((known, line) => withLine(known, line, 0), {}));

/** Points sorted into lines that cross; undefined where one is missing. */
export function heightsOf(points: readonly MapPoint[]): Heights | undefined {
  const rising = (values: number[]) => [...new Set(values)].sort((a, b) => a - b);
  const [xs, ys] = [rising(points.map(({ x }) => x)), rising(points.map(({ y }) => y))];
  const at = new Map(points.map(({ x, y, height }) => [`${x} ${y}`, height]));
  if (xs.length < 2 || ys.length < 2 || at.size !== xs.length * ys.length) return undefined;
  return { xs, ys, z: ys.map((y) => xs.map((x) => at.get(`${x} ${y}`) ?? 0)) };
}

/** What is there of a map under way, the rest at the height of its nearest neighbour told so far. */
function partly(points: readonly MapPoint[]): Heights | undefined {
  const whole = points.filter(({ y }) => points.filter((other) => other.y === y).length === widest(points));
  return heightsOf(whole);
}
const widest = (points: readonly MapPoint[]): number =>
  Math.max(...points.map(({ y }) => points.filter((other) => other.y === y).length));

type Taken = { points: MapPoint[] } | { ended: Answer };

function* byTouch(): Procedure<Taken> {
  const answer = yield* ask('map take', (lines) => {
    const map = partly(pointsIn(lines));
    return map && { kind: 'map', map, partly: true };
  });
  return answer.problem === undefined ? { points: pointsIn(answer.lines) } : { ended: answer };
}

function* byShim(shimMm: number): Procedure<Taken> {
  // Its thickness is the board's to take off: zero is the plate.
  const begun = yield* ask(`map shim s=${shimMm}`);
  if (begun.problem !== undefined) return { ended: begun };
  const points: MapPoint[] = [];
  for (;;) {
    const down = yield* descend({ shimMm, expectedMm: 0, runs: [] });
    if ('ended' in down) return down;
    const next = yield* ask('map next');
    if (next.problem !== undefined) return { ended: next };
    points.push(...pointsIn(next.lines));
    const many = Number(/ of=(\d+)/.exec(next.lines.find((line) => line.startsWith('map point')) ?? '')?.[1] ?? NaN);
    if (!(points.length < many)) return { points };
  }
} // prettier-ignore

function judged(facts: Facts, settings: Settings, map: Heights): Found {
  const range = rangeOf(map.z.flat());
  const plane = planeFit.ofChecked(map);
  const shape = map.xs.length >= 3 && map.ys.length >= 3 ? mapShape.ofChecked(map) : undefined;
  const grids = gridsEnough(settings, map);
  const enough = grids.find((grid) => grid.enough);
  const tooMuch = range > CARRIES_MM && plane.rangeAfter < range / 2;
  const words = [
    `The plate varies by ${range.toFixed(2)} mm.`,
    ...(shape ? [`It is ${SHAPE_IN_WORDS[shape.shape] ?? shape.shape}. ${shape.advice}`] : []),
    ...(tooMuch ? [`That is more than a map should carry: tram it first, ${plane.rangeAfter.toFixed(2)} mm would be left.`] : []),
    ...(enough && enough.columns * enough.rows < map.xs.length * map.ys.length
      ? [`${enough.columns} × ${enough.rows} points would do: they miss nothing by more than ${enough.worst.toFixed(3)} mm, in ${Math.round(enough.seconds)} s.`]
      : []),
  ].join(' '); // prettier-ignore
  const rounded: Heights = {
    xs: map.xs.map((x) => round(x, 1)),
    ys: map.ys.map((y) => round(y, 1)),
    z: map.z.map((row) => row.map((height) => round(height, 3))),
  };
  return found(
    words,
    {
      evidence: [
        `${map.xs.length} × ${map.ys.length} points, X ${map.xs[0]} to ${map.xs.at(-1)} mm, Y ${map.ys[0]} to ${map.ys.at(-1)} mm`,
        `a plane leaves ${plane.rangeAfter.toFixed(3)} mm; slopes ${(plane.slopeX * 100).toFixed(3)} and ${(plane.slopeY * 100).toFixed(3)} mm in 100 mm`,
        isOn(settings, 'store.kept') ? 'the board keeps it in its store' : 'the board forgets it at power-off: this image keeps no settings',
      ],
      figures: [
        { id: 'map-range', label: 'Highest less lowest', value: round(range, 3), unit: 'mm' },
        { id: 'map-left', label: 'Left beside a plane', value: round(plane.rangeAfter, 3), unit: 'mm' },
      ],
      edits: [{ path: ['bed_map'], value: rounded }],
      picture: { kind: 'map', map: rounded },
      map: rounded,
    },
    tooMuch ? 'poor' : 'found',
  );
} // prettier-ignore
