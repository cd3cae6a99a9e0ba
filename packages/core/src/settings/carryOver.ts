import { optionOf } from '../kit/optionOf';
import { settingOf } from './setting';
import type { Dump, DumpValue } from '../report/parseDump';
import { driveOf } from '../machine/driveOf';
import { driverOf, type Facts, partFor, type PlacedPart } from '../machine/facts';
import { secondMotor } from '../machine/secondMotor';
import type { PartOf } from '../parts/part';
import type { Option } from '../kit/kit';
import { refusal } from '../kit/kit';
import { factAtoms, factInWords, touched, touchedBy } from '../machine/touched';
import { driveTrain } from './driveRules';
import { derive } from './derive';
import { measuredBy } from './measured';
import type { Setting, Settings } from './setting';
import { stepsPerMm } from '../motion/stepsPerMm';

/** What is proposed for one value of an old dump. */
export type CarryVerdict =
  /** Measured, and nothing it rests on changes: take it. */
  | 'carry'
  /** Measured, and only steps or gears change: take it, scaled. */
  | 'rescale'
  /** What it rests on changes: leave it, and measure again. */
  | 'measure again'
  /** The facts or the kit decide it now. */
  | 'leave'
  /** It is what the machine would have anyway. */
  | 'same'
  /** The kit has no such option. */
  | 'no option';

export interface CarryRow {
  dump: DumpValue;
  /** The option it would set, with its own unit. */
  option?: Option;
  /** The value in the option's unit, as the old board had it. */
  had?: number | boolean;
  /** What the facts said about it before. */
  was?: Setting;
  /** What would be used without it. */
  would?: Setting;
  verdict: CarryVerdict;
  /** The value to take, where one is proposed. */
  proposed?: number | boolean;
  because: string;
}

const INCH_MM = 25.4;
/** Differences below this share are rounding. */
const ALIKE = 0.0005;

/** How a number of one unit becomes one of another. */
const CONVERSIONS: { from: string; to: string; by: (value: number) => number }[] = [
  { from: 'mA', to: 'A', by: (value) => value / 1000 },
  { from: 'steps/in', to: 'steps/mm', by: (value) => value / INCH_MM },
  { from: 'in', to: 'mm', by: (value) => value * INCH_MM },
  { from: 'in/s', to: 'mm/s', by: (value) => value * INCH_MM },
  { from: 'in/s²', to: 'mm/s²', by: (value) => value * INCH_MM },
  { from: '°F', to: '°C', by: (value) => ((value - 32) * 5) / 9 },
  { from: 'K', to: '°C', by: (value) => value - 273.15 },
  { from: 'ms', to: 's', by: (value) => value / 1000 },
  { from: 'mm/min', to: 'mm/s', by: (value) => value / 60 },
];
/** Digits that survive a conversion, so that 340 mA is 0.34 A. */
const DIGITS = 9;

/** A dump's value in the unit of its option; undefined when the units cannot be brought together. */
export function inUnitOf(option: Option, { value, unit }: DumpValue): number | boolean | undefined {
  if (option.kind === 'flag') return value === 0 ? false : value === 1 ? true : undefined;
  if (option.kind !== 'number') return undefined;
  if (unit === option.unit || option.unit === '') return value;
  const conversion = CONVERSIONS.find(({ from, to }) => from === unit && to === option.unit);
  return conversion && Number(conversion.by(value).toPrecision(DIGITS));
}

/** Why a value cannot be brought to its option, in words. */
function unitMisfit(option: Option, { value, unit }: DumpValue): string {
  if (option.kind === 'flag') return `the report says ${value}; here it is on (1) or off (0)`;
  if (option.kind !== 'number') return `the report gives a number; here it is one of several choices`;
  const wanted = option.unit === '' ? 'a number without a unit' : option.unit;
  return `the report gives it in ${unit === '' ? 'no unit' : unit}; here it is in ${wanted}`;
}

/**
 * What becomes of every value of an old settings report: whether it carries over, must be scaled or measured
 * again, or is decided by facts. `before` is the machine the report came from, `after` the machine as it will be;
 * `events` are facts that no machine file shows. Nothing is decided here: each row is a proposal with its reason.
 */
export function carryOver(before: Facts, after: Facts, dump: Dump, events: string[] = []): CarryRow[] {
  const changes = touched(factAtoms(before), factAtoms(after), events);
  const [settingsBefore, settingsAfter] = [derive(before), derive(after)];
  return dump.values.map((value) => rowOf(value, { before, after, changes, settingsBefore, settingsAfter }));
}

interface Sides {
  before: Facts;
  after: Facts;
  changes: ReturnType<typeof touched>;
  settingsBefore: Settings;
  settingsAfter: Settings;
}

function rowOf(dump: DumpValue, sides: Sides): CarryRow {
  const { after, settingsBefore, settingsAfter, changes } = sides;
  const option = optionOf(after.kit, dump.key);
  const kit = `${after.kit.name} ${after.kit.version}`;
  if (!option)
    return {
      dump,
      verdict: 'no option',
      because: `${kit} has no setting for it; it stays in the kept report`,
    };
  const had = inUnitOf(option, dump);
  const was = settingsBefore.get(dump.key);
  const would = settingOf(settingsAfter, dump.key);
  const row = { dump, option, ...(was && { was }), would, ...(had !== undefined && { had }) };
  if ((dump.tool ?? 0) > 0) return { ...row, verdict: 'no option', because: `${kit} knows one tool only` };
  if (had === undefined)
    return {
      ...row,
      verdict: 'leave',
      because: unitMisfit(option, dump),
    };
  const refused = refusal(option, had);
  if (refused) return { ...row, verdict: 'leave', because: refused };
  const measured = measuredBy(dump.key);
  const fact = measured && touchedBy(changes, measured.restsOn);
  // Both ends were looked at before.
  if (measured?.then === 'rescale' && typeof had === 'number') return rescaled(row as Known, fact, sides);
  if (close(had, would.value)) return { ...row, verdict: 'same', because: would.because };
  if (!measured)
    return {
      ...row,
      verdict: 'leave',
      because: `decided by ${would.source === 'kit' ? 'the kit' : 'the facts'}: ${would.because}`,
    };
  if (was && close(had, (was.hidden ?? was).value) && (was.hidden?.source ?? was.source) === 'kit')
    return { ...row, verdict: 'leave', because: 'it is the value of the kit, not a measured one' };
  return fact
    ? { ...row, verdict: 'measure again', because: `it belongs to ${factInWords(fact)}, which changes` }
    : {
        ...row,
        verdict: 'carry',
        proposed: had,
        because: 'it was measured, and nothing it rests on changes',
      };
}

type Known = CarryRow & { had: number; would: Setting };

/** Extruder steps scale with microsteps, steps and gears; with other rollers they must be measured again. */
function rescaled(row: Known, fact: string | undefined, { before, after }: Sides): CarryRow {
  const motorOf = (facts: Facts) =>
    row.option?.key === 'steps.e' ? partFor(facts, 'motor', 'e') : secondMotor(facts, 'e');
  const trainOf = (facts: Facts) => {
    const motor = motorOf(facts);
    return motor && driveTrain(facts, 'e', motor);
  };
  const [old, now] = [trainOf(before), trainOf(after)];
  if (!old || !now)
    return { ...row, verdict: 'measure again', because: 'the drive of the extruder is not described' };
  const [wasSteps, isSteps] = [stepsPerMm(old), stepsPerMm(now)];
  const [was, is] = [driveOf(before, 'e', motorOf(before)), driveOf(after, 'e', motorOf(after))];
  const sameRollers = JSON.stringify({ ...was, gear_ratio: 0 }) === JSON.stringify({ ...is, gear_ratio: 0 });
  if (!sameRollers)
    return {
      ...row,
      verdict: 'measure again',
      because: 'the rollers are others; how they grip must be measured',
    };
  const factor = isSteps / wasSteps;
  const proposed = Number((row.had * factor).toFixed(4));
  if (close(row.had, wasSteps) && close(proposed, isSteps))
    return { ...row, verdict: 'leave', because: 'it is the computed value, not a measured one' };
  if (close(proposed, row.would.value)) return { ...row, verdict: 'same', because: row.would.because };
  if (!fact || close(factor, 1))
    return {
      ...row,
      verdict: 'carry',
      proposed: row.had,
      because: 'it was measured; rollers, gears and microsteps stay as they are',
    };
  return {
    ...row,
    verdict: 'rescale',
    proposed,
    because: `measured ${row.had}, × ${Number(factor.toFixed(4))} because ${whatScales({ facts: before, motor: motorOf(before) }, { facts: after, motor: motorOf(after) })}`,
  };
}

interface Driven {
  facts: Facts;
  motor: PlacedPart<PartOf<'motor'>> | undefined;
}
function whatScales(before: Driven, after: Driven): string {
  const micro = ({ facts, motor }: Driven) => driverOf(facts, motor)?.microsteps;
  const steps = ({ motor }: Driven) => motor?.type.full_steps;
  const gear = ({ facts, motor }: Driven) => driveOf(facts, 'e', motor).gear_ratio ?? 1;
  return [
    [micro(before), micro(after), 'microsteps'],
    [steps(before), steps(after), 'full steps'],
    [gear(before), gear(after), 'gear ratio'],
  ]
    .filter(([was, is]) => was !== is)
    .map(([was, is, what]) => `${what} ${was} become ${is}`)
    .join(', ');
}

/** Alike but for rounding. */
const close = (a: unknown, b: unknown) =>
  typeof a === 'number' && typeof b === 'number'
    ? Math.abs(a - b) <= ALIKE * Math.max(1e-9, Math.abs(a), Math.abs(b))
    : a === b;

/** A dump's steps per mm may differ this much from what the drive of the same machine gives. */
const BELT_SHARE = 0.05;
const ROLLER_SHARE = 0.25;

/** Whether a dump can be of this machine: its steps against the drives. Lists what speaks against it. */
export function foreignDump(machine: Facts, dump: Dump): { unlikely: boolean; evidence: string[] } {
  const evidence: string[] = [];
  let compared = 0;
  for (const axis of ['x', 'y', 'z', 'e'] as const) {
    const train = driveTrain(machine, axis);
    const value = dump.values.find((entry) => entry.key === `steps.${axis}` && (entry.tool ?? 0) === 0);
    if (!train || !value) continue;
    const steps = value.unit.startsWith('steps/in') ? value.value / INCH_MM : value.value;
    if (value.unit.includes('³')) continue;
    compared += 1;
    const expected = stepsPerMm(train);
    const share = axis === 'e' ? ROLLER_SHARE : BELT_SHARE;
    if (Math.abs(steps - expected) > share * expected)
      evidence.push(
        `${axis.toUpperCase()}: ${steps} steps/mm in the report; this machine's drive gives ${Number(expected.toFixed(2))}`,
      );
  }
  return { unlikely: compared > 0 && evidence.length * 2 >= compared, evidence };
}
