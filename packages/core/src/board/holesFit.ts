import Joi from 'joi';
import { atLeastZero, calculation, finite, TOLERANCE } from '../calculation/calculation';

interface Point {
  x: number;
  y: number;
}
type Rotation = 0 | 90 | 180 | 270;
interface Input {
  a: Point[];
  b: Point[];
  tolMm: number;
}
export interface HolesFit {
  rotation: Rotation;
  /** Added to `b` after it was turned about its origin. */
  shift: Point;
  matched: [number, number][];
  worstMm: number;
  verdict: 'fits' | 'partly' | 'no';
}
const ROTATIONS: Rotation[] = [0, 90, 180, 270];

/**
 * How a board with the holes `b` sits on the posts of one with the holes `a`: the quarter turn and the shift that
 * match most holes within `tolMm`, and among those the one whose worst miss is least. Fits when every hole of the
 * smaller pattern is matched; no when less than two are (any one hole can be laid over another). Millimetres; at
 * most 24 holes each, at least one.
 */
export const holesFit = calculation<Input, HolesFit>(
  'holesFit',
  Joi.object({ a: holes(), b: holes(), tolMm: atLeastZero().max(100) }),
  ({ a, b, tolMm }) => {
    let best: Omit<HolesFit, 'verdict'> | undefined;
    for (const rotation of ROTATIONS) {
      const turned = b.map((point) => turn(point, rotation));
      for (const post of a)
        for (const hole of turned) {
          const found = settle(a, turned, { x: post.x - hole.x, y: post.y - hole.y }, tolMm);
          if (!best || better(found, best)) best = { rotation, ...found };
        }
    }
    const { matched } = best!;
    const all = Math.min(a.length, b.length);
    const verdict = matched.length === all ? 'fits' : matched.length >= 2 ? 'partly' : 'no';
    return { ...best!, verdict };
  },
);

function holes() {
  return Joi.array()
    .items(Joi.object({ x: finite(), y: finite() }).optional())
    .min(1)
    .max(24);
}

type Settled = Pick<HolesFit, 'shift' | 'matched' | 'worstMm'>;
const better = (one: Settled, other: Settled) =>
  one.matched.length > other.matched.length ||
  (one.matched.length === other.matched.length && one.worstMm < other.worstMm - TOLERANCE);

function turn({ x, y }: Point, rotation: Rotation): Point {
  return { 0: { x, y }, 90: { x: -y, y: x }, 180: { x: -x, y: -y }, 270: { x: y, y: -x } }[rotation];
}

/** From one hole laid on one post: what else comes near is matched, then the shift is set between all misses. */
function settle(a: Point[], b: Point[], start: Point, tolMm: number): Settled {
  const first = match(a, b, start, tolMm);
  const near = match(a, b, start, 2 * tolMm);
  const centred = match(a, b, between(a, b, near, start), tolMm);
  return better(centred, first) ? centred : first;
}

function match(a: Point[], b: Point[], shift: Point, tolMm: number): Settled {
  const pairs = a
    .flatMap((post, ia) =>
      b.map((hole, ib) => ({
        ia,
        ib,
        miss: Math.hypot(hole.x + shift.x - post.x, hole.y + shift.y - post.y),
      })),
    )
    .filter(({ miss }) => miss <= tolMm + TOLERANCE)
    .sort((one, other) => one.miss - other.miss || one.ia - other.ia || one.ib - other.ib);
  const matched: [number, number][] = [];
  let worstMm = 0;
  for (const { ia, ib, miss } of pairs) {
    if (matched.some(([post, hole]) => post === ia || hole === ib)) continue;
    matched.push([ia, ib]);
    worstMm = Math.max(worstMm, miss);
  }
  return { shift, matched: matched.sort((one, other) => one[0] - other[0]), worstMm };
}

/** The shift whose worst miss over some pairs is least: centre of the smallest circle round their own shifts. */
function between(a: Point[], b: Point[], { matched }: Settled, start: Point): Point {
  const wanted = matched.map(([ia, ib]) => ({ x: a[ia]!.x - b[ib]!.x, y: a[ia]!.y - b[ib]!.y }));
  const centres = [
    start,
    ...wanted.flatMap((p, i) => wanted.slice(i + 1).map((q) => ({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 }))),
    ...wanted.flatMap((p, i) =>
      wanted.slice(i + 1).flatMap((q, j) => wanted.slice(i + j + 2).flatMap((r) => circumcentre(p, q, r))),
    ),
  ];
  const worst = (centre: Point) =>
    Math.max(0, ...wanted.map((p) => Math.hypot(p.x - centre.x, p.y - centre.y)));
  return centres.reduce((least, centre) => (worst(centre) < worst(least) ? centre : least));
}

function circumcentre(p: Point, q: Point, r: Point): Point[] {
  const area = 2 * (p.x * (q.y - r.y) + q.x * (r.y - p.y) + r.x * (p.y - q.y));
  if (Math.abs(area) < 1e-12) return [];
  const [pp, qq, rr] = [p, q, r].map(({ x, y }) => x * x + y * y) as [number, number, number];
  return [
    {
      x: (pp * (q.y - r.y) + qq * (r.y - p.y) + rr * (p.y - q.y)) / area,
      y: (pp * (r.x - q.x) + qq * (p.x - r.x) + rr * (q.x - p.x)) / area,
    },
  ];
}
