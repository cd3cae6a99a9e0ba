import { ribbonWork } from '../harness/ribbonWork';
import { headerOf } from '../board/contacts';
import type { HolesFit } from '../board/holesFit';
import type { Facts, PlacedPart } from '../machine/facts';
import { boardInWords, sameBoard } from '../machine/same';
import type { Consequence } from './consequence';
import { budgetOf, driverCurrents, type DriverCurrent, headerLoads, type HeaderLoad, railLoads, shortLeads, type ShortLead, unmeasuredWires, wireLoads, type WireLoad } from '../harness/electricity'; // prettier-ignore
import { boardsFit, type HandStep, handSteps } from '../harness/handSteps';
import { jumperPlan, type JumperWish } from '../harness/jumperPlan';
import { headersOf } from '../circuit/leadOrder';
import { type End, endOf, type LeadTask, leadTasks, wallPlugs } from '../harness/leadWork';
import { ampsOf, besideRibbon } from '../circuit/loads';
import { isMains } from '../parts/part';
import { supplyAt } from '../circuit/supplyAt';

/** One row of the swap sheet. */
export interface SwapStep {
  /** The id of the consequence it fulfils, so that a tick here fills that tooth. */
  id: string;
  kind: 'lead' | 'step';
  /** The part, or the step's own name. */
  subject: string;
  title: string;
  tasks: LeadTask[];
  from?: End;
  to?: End;
  /** The hazard, then the act. */
  cautions: string[];
}

/** Everything to do with hands between two states of a machine, in an order that can be worked. */
export interface SwapPlan {
  /** Names of the boards; the same when none is swapped. */
  from: string;
  to: string;
  swap: boolean;
  steps: SwapStep[];
  /** Leads that stay as they are. */
  untouched: string[];
  holes?: HolesFit;
  walls: ReturnType<typeof wallPlugs>;
  electricity: Electricity;
}

export interface Electricity {
  budget: ReturnType<typeof budgetOf>;
  headers: HeaderLoad[];
  rails: HeaderLoad[];
  wires: WireLoad[];
  unmeasured: ReturnType<typeof unmeasuredWires>;
  short: ShortLead[];
  drivers: DriverCurrent[];
  jumpers: JumperWish[];
}

export function electricityOf(facts: Facts): Electricity {
  return {
    budget: budgetOf(facts),
    headers: headerLoads(facts),
    rails: railLoads(facts),
    wires: wireLoads(facts),
    unmeasured: unmeasuredWires(facts),
    short: shortLeads(facts),
    drivers: driverCurrents(facts),
    jumpers: jumperPlan(facts),
  };
}

/**
 * The swap, row by row. Steps that later ones hide come first: board, jumpers under modules, main supply where its
 * terminals end up out of reach; then modules, thick wires, thin wires; then run, relief and cover. The ids
 * of the job's consequences are those of the rows.
 */
export function swapPlan(before: Facts, after: Facts, consequences: readonly Consequence[]): SwapPlan {
  const hand = handSteps(before, after);
  const idOf = new Map(
    consequences.flatMap(({ kind, subject, id }) => (kind === 'step' ? [[subject, id]] : [])),
  );
  const turn = (...turns: HandStep['turn'][]) =>
    hand.filter((step) => turns.includes(step.turn)).map((step) => handRow(step, idOf.get(step.id)));
  const rows = consequences
    .filter(({ kind }) => kind === 'lead')
    .map((lead) => ({
      lead,
      part:
        after.parts.find(({ id }) => id === lead.subject) ??
        before.parts.find(({ id }) => id === lead.subject),
    }))
    .sort((a, b) => rank(after, a.part) - rank(after, b.part))
    .map(({ lead, part }) => leadRow(before, after, lead, part));
  const modules = rows.filter(({ subject }) => kindOf(after, subject) === 'driver');
  const others = rows.filter((row) => !modules.includes(row));
  const besideOne = others.filter(({ subject }) => ribbonOf(after, subject) !== undefined);
  const moved = new Set(rows.map(({ subject }) => subject));
  const swap = !sameBoard(before.machine, after.machine);
  // A soldered driver goes and comes with its board.
  const soldered = swap && [before, after].some(({ board }) => board.drivers === 'soldered');
  const holes = swap ? boardsFit(before, after) : undefined;
  return {
    from: boardInWords(before),
    to: boardInWords(after),
    swap,
    steps: [
      ...turn('mount', 'jumpers', 'supply'),
      ...modules,
      ...turn('sinks'),
      ...others.filter((row) => !besideOne.includes(row)),
      ...turn('ribbon'),
      ...besideOne,
      ...turn('run', 'close'),
    ],
    untouched: after.parts
      .filter(({ id, landing, type }) => landing && !moved.has(id) && !(soldered && type.kind === 'driver'))
      .map(({ id }) => id),
    ...(holes && { holes }),
    walls: wallPlugs(after),
    electricity: electricityOf(after),
  };
}

/** The ribbon header a part's lead goes beside, if it does. */
function ribbonOf({ parts }: Facts, id: string): string | undefined {
  const landing = parts.find((part) => part.id === id)?.landing;
  return landing && 'leads' in landing ? besideRibbon(landing) : undefined;
}

const kindOf = ({ parts }: Facts, id: string) => parts.find((part) => part.id === id)?.type.kind;

function handRow({ title, acts, cautions, ...step }: HandStep, id: string | undefined): SwapStep {
  return {
    id: id ?? `step:${step.id}`,
    kind: 'step',
    subject: step.id,
    title,
    tasks: acts.map((what) => ({ act: 'leave', what })),
    cautions,
  };
}

function leadRow(before: Facts, after: Facts, lead: Consequence, part: PlacedPart | undefined): SwapStep {
  const from = endOf(
    before,
    before.parts.find(({ id }) => id === lead.subject),
  );
  const to = endOf(
    after,
    after.parts.find(({ id }) => id === lead.subject),
  );
  return {
    id: lead.id,
    kind: 'lead',
    subject: lead.subject,
    title: lead.title,
    tasks: leadTasks(before, after, lead.subject),
    ...(from && { from }),
    ...(to && { to }),
    cautions: part ? cautionsFor(after, part) : [],
  };
}

/** Out of reach later first, then thick before thin, so that thin leads lie on top. */
function rank({ board }: Facts, part: PlacedPart | undefined): number {
  // What leaves a terminal makes room for what comes to it.
  if (part && isMains(part.type)) return 0;
  if (!part?.landing) return 90;
  if (
    'leads' in part.landing &&
    headersOf(part.landing).some((id) => headerOf(board, `${id}.1`)?.first_because)
  )
    return 0;
  return { heater: 1, relay: 1, motor: 2, fan: 3, lamp: 3, servo: 4, switch: 5, 'filament-sensor': 6, probe: 7, thermistor: 8, display: 9, driver: 10 }[part.type.kind]; // prettier-ignore
}

/** What can hurt at this lead. */
function cautionsFor(after: Facts, part: PlacedPart): string[] {
  const { type } = part;
  const volts = supplyAt(after, part.landing);
  const found: string[] = [];
  if (isMains(type))
    found.push(
      'Mains kills: none of its wires meets the board. Follow local codes and leave them, the earth to the frame and to what it heats, and the thermal cut-out to a qualified electrician.',
    );
  else if (type.kind === 'relay')
    found.push(
      'Mains on its contacts kills: follow local codes and leave that side, with the earth, to a qualified electrician. Its input has a plus and a minus: plus to the supply contact, minus to the switched one.',
    );
  else if (type.kind === 'heater') {
    const amps = ampsOf(type, after.machine.supply.volts_v) ?? 0;
    found.push(
      `A thin wire burns: this one carries ${amps.toFixed(1)} A, gauge ${gaugeFor(amps)} or thicker.`,
    );
  }
  if ((type.kind === 'fan' || type.kind === 'lamp') && type.supply_v !== undefined)
    found.push(
      `A ${type.kind} burns at the wrong voltage: this one wants ${type.supply_v} V, its place gives ${volts ?? '?'} V. Plus and minus count.`,
    );
  if (
    (type.kind === 'probe' || type.kind === 'servo' || type.kind === 'filament-sensor') &&
    volts !== undefined
  )
    found.push(`A reversed plug destroys it: find its ${volts} V and its ground before you plug it in.`);
  if (part.landing && 'leads' in part.landing)
    found.push(...(ribbonWork(after.board, part.landing)?.cautions ?? []));
  return found;
}

/** The thinnest American gauge that stays at 6 A/mm² or below. */
function gaugeFor(amps: number): number {
  for (let awg = 30; awg > 8; awg -= 2) {
    const area = (Math.PI / 4) * (0.127 * 92 ** ((36 - awg) / 39)) ** 2;
    if (amps / area <= 6) return awg;
  }
  return 8;
}
