import { entriesOf } from '../tree/keysOf';
/** One try: which sensor was plugged where, by which lead, and whether it read as it should. */
export interface Try {
  sensor: string;
  port: string;
  /** The sensor's own lead unless another was used. */
  lead?: string;
  reads: boolean;
}

export interface ExchangeCase {
  /** What does not read, as it was found. */
  suspect: { sensor: string; port: string };
  sensors: { id: string; output: 'switch' | 'open-collector' | 'driven' }[];
  /** A port of a board that is known to be good can be trusted. */
  ports: {
    id: string;
    trusted?: boolean;
    has?: string;
    /** The board's data says that it has no pull-up, and how sure that is. */
    noPullUp?: keyof typeof FAULT_PRIOR;
  }[];
  tries: Try[];
}

export const CULPRITS = ['sensor', 'port', 'both', 'wiring'] as const;
export type Culprit = (typeof CULPRITS)[number];

export interface PortVerdict {
  verdict: Culprit | 'nothing is wrong' | 'one more test needed';
  /** A port that is at fault for open-collector sensors only: a lever reads there. */
  detail?: 'no pull-up';
  /** How sure that is, 0 to 1; of the likeliest where one more test is needed. */
  sure: number;
  /** How likely each is now. */
  shares: Record<Culprit | 'none' | 'several', number>;
  /** The test that tells most next. */
  next?: { sensor: string; port: string; lead?: string; why: string };
}

/** How often each thing is at fault before anything was tried, and how often a try misleads. */
const PRIOR = { sensor: 0.15, port: 0.06, pull: 0.06, lead: 0.12, trusted: 0.002 };
/** How likely a missing pull-up is where the board's data speaks of one. */
const FAULT_PRIOR = { proven: 0.9, reported: 0.5, suspected: 0.25 } as const;
const MISLEADS = 0.02;
/** Surer than this is a verdict. */
const SURE = 0.85;

/** One way the world may be: everything that is at fault in it. */
interface World {
  faults: ReadonlySet<string>;
  weight: number;
}

/**
 * Tells from exchanges whether sensor, port, both or the wiring is at fault. Every combination of faults is weighed
 * (Bayes): a sensor reads only where sensor, lead and port are good; a port may also fail for open-collector sensors
 * alone, for want of a pull-up. A try misleads once in 50. Where no answer passes 85 %, the try that is expected to
 * leave least doubt is named.
 */
export function portVerdict(test: ExchangeCase): PortVerdict {
  const worlds = weighed(test, allWorlds(test));
  const shares = sharesOf(test, worlds);
  const ranked = entriesOf(shares).sort((a, b) => b[1] - a[1]);
  const [first, sure] = ranked[0]!;
  const settled = test.tries.length > 0 && sure >= SURE && first !== 'several';
  const next = settled ? undefined : nextTry(test);
  const detail = settled && first === 'port' && pullOnly(test, worlds) ? ('no pull-up' as const) : undefined;
  return {
    // Of the shares, all but "none" are culprits.
    verdict: !settled ? 'one more test needed' : first === 'none' ? 'nothing is wrong' : (first as Culprit),
    sure,
    shares,
    ...(detail && { detail }),
    ...(next && { next }),
  };
}

/** Whether the port is likelier to lack its pull-up than to be dead. */
function pullOnly({ suspect }: ExchangeCase, worlds: readonly World[]): boolean {
  const weight = (fault: string) =>
    worlds.reduce((sum, world) => sum + (world.faults.has(fault) ? world.weight : 0), 0);
  return weight(`pull ${suspect.port}`) > 2 * weight(`port ${suspect.port}`);
}

const leadOf = ({ sensor, lead }: Pick<Try, 'sensor' | 'lead'>) => lead ?? `lead of ${sensor}`;

function allWorlds({ sensors, ports, tries, suspect }: ExchangeCase): World[] {
  const used = new Set([suspect.port, ...tries.map(({ port }) => port)]);
  const leads = new Set([leadOf(suspect), ...tries.map(leadOf)]);
  const plugged = new Set([suspect.sensor, ...tries.map(({ sensor }) => sensor)]);
  const parts: [string, number][] = [
    ...sensors
      .filter(({ id }) => plugged.has(id))
      .map(({ id }): [string, number] => [`sensor ${id}`, PRIOR.sensor]),
    ...[...leads].map((id): [string, number] => [`lead ${id}`, PRIOR.lead]),
    ...ports
      .filter(({ id }) => used.has(id))
      .flatMap(({ id, trusted, noPullUp }): [string, number][] => [
        [`port ${id}`, trusted ? PRIOR.trusted : PRIOR.port],
        [`pull ${id}`, noPullUp ? FAULT_PRIOR[noPullUp] : trusted ? PRIOR.trusted : PRIOR.pull],
      ]),
  ];
  let worlds: World[] = [{ faults: new Set(), weight: 1 }];
  for (const [part, prior] of parts)
    worlds = worlds.flatMap(({ faults, weight }) => [
      { faults, weight: weight * (1 - prior) },
      // More than three faults at once is not worth weighing.
      ...(faults.size < 3 ? [{ faults: new Set([...faults, part]), weight: weight * prior }] : []),
    ]);
  return worlds;
}

function readsIn({ sensors }: ExchangeCase, { faults }: World, one: Omit<Try, 'reads'>): boolean {
  const pulls = sensors.find(({ id }) => id === one.sensor)?.output === 'open-collector';
  return !(
    faults.has(`sensor ${one.sensor}`) ||
    faults.has(`lead ${leadOf(one)}`) ||
    faults.has(`port ${one.port}`) ||
    (pulls && faults.has(`pull ${one.port}`))
  );
}

function weighed(test: ExchangeCase, worlds: readonly World[]): World[] {
  const tries = [{ ...test.suspect, reads: false }, ...test.tries];
  const all = worlds.map((world) => ({
    faults: world.faults,
    weight: tries.reduce(
      (weight, one) => weight * (readsIn(test, world, one) === one.reads ? 1 - MISLEADS : MISLEADS),
      world.weight,
    ),
  }));
  const total = all.reduce((sum, { weight }) => sum + weight, 0);
  return all.map(({ faults, weight }) => ({ faults, weight: weight / total }));
}

function sharesOf({ suspect }: ExchangeCase, worlds: readonly World[]): PortVerdict['shares'] {
  const shares = { sensor: 0, port: 0, both: 0, wiring: 0, none: 0, several: 0 };
  for (const { faults, weight } of worlds) {
    const sensor = faults.has(`sensor ${suspect.sensor}`);
    const port = faults.has(`port ${suspect.port}`) || faults.has(`pull ${suspect.port}`);
    const lead = faults.has(`lead ${leadOf(suspect)}`);
    // Behind a sensor that is at fault its own lead cannot be judged; it goes with the sensor.
    const culprit = sensor
      ? port
        ? 'both'
        : 'sensor'
      : port
        ? lead
          ? 'several'
          : 'port'
        : lead
          ? 'wiring'
          : 'none';
    shares[culprit] += weight;
  }
  return shares;
}

/** Bits of doubt about the culprit. */
function doubt(shares: PortVerdict['shares']): number {
  return Object.values(shares).reduce((sum, share) => (share > 0 ? sum - share * Math.log2(share) : sum), 0);
}

function nextTry(test: ExchangeCase): PortVerdict['next'] {
  const { suspect, sensors, ports, tries } = test;
  const same = (a: Omit<Try, 'reads'>, b: Omit<Try, 'reads'>) =>
    a.sensor === b.sensor && a.port === b.port && leadOf(a) === leadOf(b);
  const candidates: (Omit<Try, 'reads'> & { why: string })[] = [
    ...ports
      .filter(({ id }) => id !== suspect.port)
      .map(({ id, trusted }) => ({
        sensor: suspect.sensor,
        port: id,
        why: trusted
          ? 'the same sensor on a board that is known to be good'
          : 'the same sensor on another port',
      })),
    ...sensors
      .filter(({ id }) => id !== suspect.sensor)
      .map(({ id, output }) => ({
        sensor: id,
        port: suspect.port,
        why:
          output === sensors.find((sensor) => sensor.id === suspect.sensor)?.output
            ? 'another sensor on the same port'
            : 'a sensor of another make on the same port',
      })),
    {
      sensor: suspect.sensor,
      port: suspect.port,
      lead: 'another lead',
      why: 'the same sensor and port with another lead',
    },
    { sensor: suspect.sensor, port: suspect.port, why: 'the same once more: a contact may have been loose' },
  ];
  const open = candidates.filter(
    (one) =>
      !tries.some((tried) => same(tried, one)) &&
      (one.lead !== undefined || !same(one, suspect) || tries.length > 3),
  );
  const ranked = open.map((one) => ({ one, left: doubtAfter(test, one) })).sort((a, b) => a.left - b.left);
  return ranked[0]?.one;
}

/** Doubt that is expected to be left once a try was made. */
function doubtAfter(test: ExchangeCase, one: Omit<Try, 'reads'>): number {
  const withTry = (reads: boolean): ExchangeCase => ({ ...test, tries: [...test.tries, { ...one, reads }] });
  const now = weighed(test, allWorlds(withTry(true)));
  const chance = now.reduce((sum, world) => {
    const read = readsIn(test, world, one) ? 1 - MISLEADS : MISLEADS;
    return sum + world.weight * read;
  }, 0);
  const after = (reads: boolean) => {
    const next = withTry(reads);
    return doubt(sharesOf(next, weighed(next, allWorlds(next))));
  };
  return chance * after(true) + (1 - chance) * after(false);
}
