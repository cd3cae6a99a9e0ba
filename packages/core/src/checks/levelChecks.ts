import { pinGroup } from '../board/chip';
import { type Lifting, liftingResistors } from '../circuit/circuit';
import { adapterOf } from '../circuit/loads';
import { signalsRead } from '../circuit/pinTable';
import type { Spoken } from '../finding/finding';
import { drivenVolts } from '../harness/judgeLeads';
import type { Facts, PlacedPart } from '../machine/facts';
import type { Check } from './check';

/** What lifts a signal high, and to what: the part itself, or a resistor. */
interface Lift {
  volts: number;
  /** As evidence. */
  by: string;
  driven: boolean;
}

const rounded = (volts: number) => Number(volts.toFixed(2));

const RESISTOR: Readonly<Record<Lifting['at'], string>> = {
  board: 'resistor on the board',
  lead: 'resistor in its lead',
};

/** What lifts a signal: what drives it, through its divider; and each resistor to a supply. */
function liftedBy(facts: Facts, part: PlacedPart, pin: number): Lift[] {
  const driven = drivenVolts(part);
  const divider = part.landing && 'leads' in part.landing ? adapterOf(part.landing, 'divider', 'signal') : undefined;
  const share = divider ? divider.bottom_ohms / (divider.top_ohms + divider.bottom_ohms) : 1;
  const through = divider ? `, through ${divider.top_ohms} Ω and ${divider.bottom_ohms} Ω` : '';
  return [
    ...(driven === undefined ? [] : [{ volts: rounded(driven * share), by: `${part.type.name}: output ${driven} V${through}`, driven: true }]),
    ...liftingResistors(facts, part, pin).map(({ at, ohms, volts }) => ({ volts, by: `${RESISTOR[at]}: ${ohms} Ω to ${volts} V`, driven: false })),
  ];
} // prettier-ignore

/** Signals at pins that read high and low; those of thermistors are measured. */
const readSignals = (facts: Facts) =>
  signalsRead(facts).flatMap((signal) =>
    signal.part.type.kind === 'thermistor'
      ? []
      : [{ ...signal, lifts: liftedBy(facts, signal.part, signal.pin) }],
  );

function overTolerance(facts: Facts): Spoken[] {
  return readSignals(facts).flatMap(({ part, where, pin, lifts }): Spoken[] => {
    const tolerates = pinGroup(facts.chip, pin)?.tolerates_v;
    const over = tolerates === undefined ? undefined : lifts.find(({ volts }) => volts > tolerates);
    if (!over) return [];
    const { volts, by, driven } = over;
    return [
      {
        subject: { kind: 'part', id: part.id },
        what: driven
          ? `${part.id} can put ${volts} V on an input that stands ${tolerates} V.`
          : `A resistor lifts ${part.id} to ${volts} V, on an input that stands ${tolerates} V.`,
        why: `The chip pin breaks, at once or later. ${driven ? 'Put a divider or an isolator in between, or use an open-collector sensor.' : 'Measure what the resistor goes to; it should go to what the chip runs at.'}`,
        evidence: [by, `${where}: tolerates ${tolerates} V`],
      },
    ];
  });
}

/** Logic reads high from some such share of what it runs at; data sheets say 0.6 to 0.7. */
const HIGH_FROM = 0.6;

/** A signal that never comes high enough to be read as high: pressed and not pressed read the same. */
function tooLow(facts: Facts): Spoken[] {
  const { name, level_v: level } = facts.chip;
  return readSignals(facts).flatMap(({ part, at, lifts }): Spoken[] => {
    // What drives a signal is stronger than a resistor.
    const [highest] = [...lifts].sort((one, other) => Number(other.driven) - Number(one.driven) || other.volts - one.volts); // prettier-ignore
    if (!highest || highest.volts >= HIGH_FROM * level) return [];
    return [
      {
        subject: { kind: 'part', id: part.id },
        what: `${part.id} comes to ${highest.volts} V at most; ${name} reads high from some ${rounded(HIGH_FROM * level)} V.`,
        why: 'It reads the same whether it is pressed or not: what runs towards it is not stopped. Use a sensor for these volts, or another divider.',
        evidence: [...lifts.map(({ by }) => by), `${at}: ${name} runs at ${level} V`],
      },
    ];
  });
}

/** Whether what reaches an input is neither too much for its pin nor too little to be read. */
export const levelChecks: Check[] = [
  { id: 'level.over-tolerance', severity: 'stop', run: overTolerance },
  { id: 'level.too-low', severity: 'stop', run: tooLow },
];
