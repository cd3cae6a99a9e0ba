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

interface Circle extends Point {
  radius: number;
}
const holds = (circle: Circle, { x, y }: Point) =>
  Math.hypot(x - circle.x, y - circle.y) <= circle.radius + TOLERANCE / 2;

/**
 * The shift whose worst miss over some pairs is least: centre of the smallest circle round their own shifts, found by
 * adding one shift after another (Welzl 1991), so that 24 holes take no longer than a moment.
 */
function between(a: Point[], b: Point[], { matched }: Settled, start: Point): Point {
  const wanted = matched.map(([ia, ib]) => ({ x: a[ia]!.x - b[ib]!.x, y: a[ia]!.y - b[ib]!.y }));
  const circle = wanted.reduce<Circle | undefined>(
    (round, p, i) => (round && holds(round, p) ? round : throughOne(wanted.slice(0, i), p)),
    undefined,
  );
  return circle ?? start;
}

function throughOne(inside: Point[], p: Point): Circle {
  return inside.reduce<Circle>(
    (round, q, j) => (holds(round, q) ? round : throughTwo(inside.slice(0, j), p, q)),
    { ...p, radius: 0 },
  );
}

function throughTwo(inside: Point[], p: Point, q: Point): Circle {
  const middle = { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2, radius: Math.hypot(p.x - q.x, p.y - q.y) / 2 };
  return inside.reduce<Circle>(
    (round, r) => (holds(round, r) ? round : (throughThree(p, q, r) ?? round)),
    middle,
  );
}

function throughThree(p: Point, q: Point, r: Point): Circle | undefined {
  const area = 2 * (p.x * (q.y - r.y) + q.x * (r.y - p.y) + r.x * (p.y - q.y));
  if (Math.abs(area) < 1e-12) return undefined;
  const [pp, qq, rr] = [p, q, r].map(({ x, y }) => x * x + y * y) as [number, number, number];
  const centre = {
    x: (pp * (q.y - r.y) + qq * (r.y - p.y) + rr * (p.y - q.y)) / area,
    y: (pp * (r.x - q.x) + qq * (p.x - r.x) + rr * (q.x - p.x)) / area,
  };
  return { ...centre, radius: Math.hypot(p.x - centre.x, p.y - centre.y) };
}
