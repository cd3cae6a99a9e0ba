import Joi from 'joi';
import { atLeastZero, CalcError, calculation, finite, TOLERANCE } from '../calculation/calculation';

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
 * @throws {CalcError} when `tolMm` is so much larger than the holes lie apart that everything pairs with everything
 */
export const holesFit = calculation<Input, HolesFit>(
  'holesFit',
  () => Joi.object({ a: holes(), b: holes(), tolMm: atLeastZero().max(100) }),
  ({ a, b, tolMm }) => {
    const search = { a, tolMm, pairs: 0 };
    const all = Math.min(a.length, b.length);
    let best: Omit<HolesFit, 'verdict'> | undefined;
    const exact = () => best?.matched.length === all && best.worstMm <= TOLERANCE;
    for (const rotation of ROTATIONS) {
      const turned = b.map((point) => turn(point, rotation));
      for (const post of a)
        for (const hole of turned) {
          if (exact()) break;
          const start = { x: post.x - hole.x, y: post.y - hole.y };
          if (best && mostMatches(search, turned, start) < best.matched.length) continue;
          const found = settle(search, turned, start);
          if (!best || better(found, best)) best = { rotation, ...found };
        }
    }
    if (!best) return { rotation: 0, shift: { x: 0, y: 0 }, matched: [], worstMm: 0, verdict: 'no' };
    const { matched } = best;
    const verdict = matched.length === all ? 'fits' : matched.length >= 2 ? 'partly' : 'no';
    return { ...best, verdict };
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

/** The posts that holes are laid on, and how many pairs were weighed so far. */
interface Search {
  a: Point[];
  tolMm: number;
  pairs: number;
}
/** Holes that all lie within the tolerance of one another pair in more ways than can be tried in a moment. */
const MOST_PAIRS = 150_000;

/** From one hole laid on one post: what else comes near is matched, then the shift is set between all misses. */
function settle(search: Search, b: Point[], start: Point): Settled {
  const first = match(search, b, start, search.tolMm);
  const near = match(search, b, start, 2 * search.tolMm);
  const centred = match(search, b, between(search.a, b, near, start), search.tolMm);
  return better(centred, first) ? centred : first;
}

/** How many posts could be matched from a start at most: settling shifts by two tolerances and matches within a third. */
function mostMatches({ a, tolMm }: Search, b: Point[], shift: Point): number {
  const within = 3 * tolMm + TOLERANCE;
  let posts = 0;
  for (const post of a)
    for (const hole of b)
      if (Math.abs(hole.x + shift.x - post.x) <= within && Math.abs(hole.y + shift.y - post.y) <= within) {
        posts += 1;
        break;
      }
  return posts;
}

/** @throws {CalcError} when more pairs were weighed than `MOST_PAIRS` */
function match(search: Search, b: Point[], shift: Point, tolMm: number): Settled {
  const within = tolMm + TOLERANCE;
  const pairs: { ia: number; ib: number; miss: number }[] = [];
  search.a.forEach((post, ia) =>
    b.forEach((hole, ib) => {
      const x = hole.x + shift.x - post.x;
      const y = hole.y + shift.y - post.y;
      // Most pairs are far apart, and told so without a root.
      if (Math.abs(x) > within || Math.abs(y) > within) return;
      const miss = Math.hypot(x, y);
      if (miss <= within) pairs.push({ ia, ib, miss });
    }),
  );
  search.pairs += pairs.length;
  if (search.pairs > MOST_PAIRS)
    throw new CalcError(
      'tolMm',
      '"tolMm" is larger than the holes lie apart; no fit can be told from another',
    );
  pairs.sort((one, other) => one.miss - other.miss || one.ia - other.ia || one.ib - other.ib);
  const matched: [number, number][] = [];
  const [postTaken, holeTaken] = [new Set<number>(), new Set<number>()];
  let worstMm = 0;
  for (const { ia, ib, miss } of pairs) {
    if (postTaken.has(ia) || holeTaken.has(ib)) continue;
    postTaken.add(ia);
    holeTaken.add(ib);
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
  const wanted = matched.flatMap(([ia, ib]) => {
    const [post, hole] = [a[ia], b[ib]];
    return post && hole ? [{ x: post.x - hole.x, y: post.y - hole.y }] : [];
  });
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
  // As many as go in.
  const [pp, qq, rr] = [p, q, r].map(({ x, y }) => x * x + y * y) as [number, number, number];
  const centre = {
    x: (pp * (q.y - r.y) + qq * (r.y - p.y) + rr * (p.y - q.y)) / area,
    y: (pp * (r.x - q.x) + qq * (p.x - r.x) + rr * (q.x - p.x)) / area,
  };
  return { ...centre, radius: Math.hypot(p.x - centre.x, p.y - centre.y) };
}
