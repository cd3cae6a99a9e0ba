import { madeForVolts } from '../parts/part';
import { pinGroup } from '../board/chip';
import { parseNet } from '../board/net';
import type { Judged } from './judged';
import { limitOf, type Unit } from './harnessModel';
import { MAIN_SUPPLY } from './purposes';
import { type Filled, isFilled } from '../tree/filled';
import type { WiredPart, WiringCase } from './wiringCase';

/** What parts that cannot be placed together want, and why the board has not enough of it. */
export function whyUnmeetable(wiring: WiringCase, units: Readonly<Filled<Unit>>): string[] {
  const wishes = units.map(
    (unit) => `${unit.parts.map(({ id }) => id).join(' with ')}: ${wish(unit.parts[0])}`,
  );
  if (units.length === 1) return [...wishes, whyNowhere(wiring, units[0])];
  return [...wishes, whyNotTogether(wiring, units)];
}

const NEEDS: Record<string, string> = {
  in: 'an input',
  out: 'an output',
  adc: 'an analogue input',
  pwm: 'a steered output (PWM)',
  sw: 'a switched output',
};

function wish({ type }: WiredPart): string {
  if (type.kind === 'driver') return `a driver place that runs it ${type.mode}`;
  if (type.kind === 'motor') return 'a driver place';
  if (type.kind === 'display') return `a display header with ${type.ribbon_pins} signals`;
  const pins = type.leads.flatMap((lead) =>
    lead.needs ? [`${NEEDS[lead.needs]}${lead.interrupt ? ' with an interrupt line of its own' : ''}`] : [],
  );
  const volts = madeForVolts(type);
  const supply = volts === undefined ? [] : [`${volts} V${type.draws_a ? `, ${type.draws_a} A` : ''}`];
  return [...pins, ...supply].join(' and ');
}

/** Why not one contact of the board would do for a part. */
function whyNowhere(wiring: WiringCase, unit: Unit): string {
  const { board, chip } = wiring;
  const [{ type }] = unit.parts;
  if (type.kind === 'driver' || type.kind === 'motor') return `${board.name} has no such driver place`;
  const nets = board.headers.filter((header) => header.for !== MAIN_SUPPLY).flatMap(({ contacts }) => contacts.map(parseNet)); // prettier-ignore
  for (const lead of type.leads) {
    if (!lead.needs) continue;
    const { needs } = lead;
    const any = nets.some((net) =>
      needs === 'sw' ? net.kind === 'sw' : net.kind === 'sig' && pinGroup(chip, net.pin)?.can.includes(needs),
    );
    if (!any) return `no header of ${board.name} has ${NEEDS[needs]} for the ${lead.role} lead`;
  }
  return overdrawn(wiring, [unit]) ?? `no header of ${board.name} gives all of it at once`;
}

/** What there is too little of when each part alone could be placed. */
function whyNotTogether(wiring: WiringCase, units: Readonly<Filled<Unit>>): string {
  const names = units.map(({ id }) => id).join(', ');
  const principals = new Set(
    units.flatMap(({ landings }) => landings.flatMap(({ takes }) => takes.slice(0, 1))),
  );
  if (principals.size < units.length) {
    const places = [...principals].map((take) => placeInWords(wiring, take));
    return `${names} want ${units.length} places, and only ${principals.size} would do: ${places.join(', ')}`;
  }
  return (
    overdrawn(wiring, units) ??
    onlyLine(units) ??
    oneTimer(units) ??
    `${wiring.board.name} has a place for each of ${names} alone, but no way to connect all of them`
  );
}

function placeInWords({ board }: WiringCase, take: string): string {
  const [kind, id] = [take.slice(0, take.indexOf(':')), take.slice(take.indexOf(':') + 1)];
  if (kind !== 'pin') return `${kind} ${id}`;
  for (const header of board.headers) {
    const index = header.contacts.findIndex((contact) => contact.endsWith(`:p${id}`));
    if (index >= 0) return `${header.id}.${index + 1}`;
  }
  return `p${id}`;
}

/** Headers and rails that give less than the parts draw wherever they are placed. */
function overdrawn(wiring: WiringCase, units: Readonly<Filled<Unit>>): string | undefined {
  const [unit] = units;
  if (units.length === 1) return tooStrong(wiring, unit);
  const names = new Set(units.flatMap(({ landings }) => landings.flatMap(({ draws }) => draws.map(({ from }) => from)))); // prettier-ignore
  for (const name of names) {
    const drawn = units.reduce(
      (sum, { landings }) => sum + Math.min(...landings.map((judged) => drawnBy(judged, name))),
      0,
    );
    const limit = limitOf(wiring, name);
    if (drawn > limit) return `together they draw ${ampsInWords(drawn)} from ${name}, which may give ${ampsInWords(limit)}`; // prettier-ignore
  }
  return undefined;
}

/** A part that draws more than even the strongest place may give. */
function tooStrong(wiring: WiringCase, { landings }: Unit): string | undefined {
  const over = landings.flatMap(
    ({ draws }) => draws.find(({ from, ma }) => ma > limitOf(wiring, from)) ?? [],
  );
  if (!isFilled(over) || over.length < landings.length) return undefined;
  const best = over.reduce((one, other) =>
    limitOf(wiring, other.from) > limitOf(wiring, one.from) ? other : one,
  );
  return `it draws ${ampsInWords(best.ma)}; the strongest place is ${best.from}, which may give ${ampsInWords(limitOf(wiring, best.from))}`;
}

const ampsInWords = (ma: number) => `${(ma / 1000).toFixed(1)} A`;
const drawnBy = ({ draws }: Judged, name: string) =>
  draws.reduce((sum, { from, ma }) => (from === name ? sum + ma : sum), 0);

function onlyLine(units: readonly Unit[]): string | undefined {
  const lines = new Set(
    units.flatMap(({ landings }) =>
      landings.flatMap(({ takes }) => takes.filter((take) => take.startsWith('line:'))),
    ),
  );
  return lines.size > 0 && lines.size < units.length
    ? `their pins share ${lines.size === 1 ? 'one interrupt line' : `${lines.size} interrupt lines`}`
    : undefined;
}

function oneTimer(units: readonly Unit[]): string | undefined {
  const timers = new Set(units.flatMap(({ landings }) => landings.map(({ mode }) => mode?.group)));
  const rates = new Set(
    units.flatMap(({ landings }) => landings.flatMap(({ mode }) => (mode ? [mode.hz] : []))),
  );
  const [only] = timers;
  return timers.size === 1 && only !== undefined && rates.size > 1
    ? `all their pins are on ${only}, which can run at one frequency, and they want ${[...rates].join(' Hz and ')} Hz`
    : undefined;
}
