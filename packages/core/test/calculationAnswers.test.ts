import { describe, expect, it } from 'vitest';
import { calculations } from '../src/calc/calculations';
import { seeded } from './fixtures/seeded';

/*
 * What the calculations of the command line say of seeded inputs that their schemas let through, as they said it before.
 * No answer is right because it stands there: when one changes, read what has changed, and write it anew with vitest -u.
 */
interface Described {
  type?: string;
  flags?: { only?: boolean; presence?: string; default?: unknown };
  allow?: unknown[];
  rules?: { name: string; args?: { limit?: number } }[];
  keys?: Record<string, Described>;
  items?: Described[];
  ordered?: Described[];
  whens?: { switch?: { is: Described; then: Described }[] }[];
  matches?: { schema?: Described; then?: Described; otherwise?: Described; switch?: { then: Described }[] }[];
}

const ANSWERS = 10;
const REFUSALS = 3;
const TRIES = 400;

/** A value that a schema may let through, of a size that is met in a workshop. */
function some(told: Described, random: () => number): unknown {
  const oneOf = <T>(list: readonly T[]): T | undefined => list[Math.floor(random() * list.length)];
  const limit = (name: string) => told.rules?.find((rule) => rule.name === name)?.args?.limit;
  if (told.flags?.only) return oneOf(told.allow ?? []);
  switch (told.type) {
    case 'number': {
      const least = limit('min') ?? limit('greater') ?? 0;
      const size = 10 ** (random() * 4 - 1) * (least < 0 && random() < 0.3 ? -1 : 1);
      const within = Math.min(limit('max') ?? limit('less') ?? Infinity, Math.max(least, size));
      return Number(within.toPrecision(told.rules?.some(({ name }) => name === 'integer') ? 1 : 3));
    }
    case 'boolean':
      return random() < 0.5;
    case 'array':
      return told.ordered
        ? told.ordered.map((each) => some(each, random))
        : Array.from({ length: limit('length') ?? Math.max(limit('min') ?? 0, 3 + Math.floor(random() * 4)) }, () => some(oneOf(told.items ?? []) ?? {}, random));
    case 'object': {
      const way = oneOf(told.whens?.[0]?.switch ?? []);
      if (way) return { ...Object(some(way.then, random)), kind: way.is.allow?.at(-1) };
      return Object.fromEntries(
        Object.entries(told.keys ?? {})
          .filter(([, { flags }]) => flags?.presence !== 'optional' || random() < 0.6)
          .map(([key, each]) => [key, some(each, random)]),
      );
    }
    case 'alternatives': {
      const ways = (told.matches ?? []).flatMap(({ schema, then, otherwise, switch: cases }) => [schema, then, otherwise, ...(cases ?? []).map((one) => one.then)]).filter((one) => one !== undefined);
      return some(oneOf(ways) ?? {}, random);
    }
    default:
      return told.type === 'string' ? `M92 X${Math.floor(random() * 400)}` : random();
  }
} // prettier-ignore

/** An input as its words ask for: lines of a map in rising order, a height at each crossing, a screw that is there. */
function fitting(input: unknown, random: () => number): unknown {
  if (input === null || typeof input !== 'object') return input;
  const given = input as { xs?: number[]; ys?: number[]; z?: unknown; screws?: { id: string }[] };
  const lines = () => [0, 1, 2, 3].map((nth) => Number((nth * 50 + random() * 40).toPrecision(3)));
  const [xs, ys] = [lines(), lines()];
  const z = ys.map(() => xs.map(() => Number((random() - 0.5).toFixed(3))));
  const screws = given.screws?.map(({ id }, nth) => ({ id: `${id} ${nth}`, x: 60 * nth, y: (40 * nth ** 2) % 130 }));
  const inPlace = { x: 70, y: 40 };
  return {
    ...given,
    ...('xs' in given && { xs, ys, z, ...('x' in given && inPlace) }),
    ...(screws && { screws, reference: screws[0]?.id }),
  };
} // prettier-ignore

const short = (value: unknown): string =>
  JSON.stringify(value, (_key, item: unknown) => (typeof item === 'number' ? Number(item.toPrecision(6)) : item)); // prettier-ignore

function rowsOf(name: string): string[] {
  const calculate = calculations.get(name);
  if (!calculate) return [];
  const random = seeded(name.length * 7919);
  // Joi's own description of a schema.
  const told = calculate.schema().describe() as Described;
  const answers: string[] = [];
  const refusals: string[] = [];
  for (let nth = 0; nth < TRIES && answers.length < ANSWERS; nth += 1) {
    const input = fitting(some(told, random), random);
    try {
      answers.push(`${short(input)} → ${short(calculate(input))}`);
    } catch (error) {
      refusals.push(`${short(input)} ✗ ${String(error)}`);
    }
  }
  return [...answers, ...refusals.slice(0, REFUSALS)];
}

describe('what was reckoned before is reckoned again', () => {
  // What asks for texts that are made elsewhere (images, reports, features) has tests of its own.
  const reckoned = [...calculations.keys()]
    .map((name) => ({ name, rows: rowsOf(name) }))
    .filter(({ rows }) => rows[0]?.includes('→'));
  it('most of them are', () => expect(reckoned.length).toBeGreaterThan(calculations.size * 0.75));
  it.each(reckoned)('$name', async ({ name, rows }) => {
    await expect(rows.join('\n')).toMatchFileSnapshot(`answers/calculations/${name}.txt`);
  }); // prettier-ignore
});
