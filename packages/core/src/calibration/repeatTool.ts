import type { Picture } from '../bringup/picture';
import { type Answer, ask, type Procedure, replies } from '../bringup/procedure';
import { parseReply } from '../bringup/reply';
import { type Facts, partsOf } from '../machine/facts';
import { type Repeatability, repeatability, USUAL_LIMIT_MM } from '../probe/repeatability';
import type { Settings } from '../settings/setting';
import {
  type CalibrationTool,
  endedBy,
  type Found,
  found,
  missingOf,
  numberIn,
  signed,
} from './calibrationTool';
import { homeAll, temperatures, warmUp } from './warmUp';

const USUAL_TOUCHES = 10;

/** The probe, or the plain switch of Z, judged by touching one place again and again. */
export function repeatTool(facts: Facts, settings: Settings): CalibrationTool {
  const probe = partsOf(facts, 'probe')[0];
  const told = probe && missingOf(facts, settings, ['repeat']) === undefined;
  const tool: CalibrationTool = {
    id: 'probe-repeat',
    title: probe ? 'Is the probe to be trusted?' : 'Is the Z switch to be trusted?',
    what: `${probe ? 'The probe' : 'The switch'} meets the same place again and again. What it scatters, no offset and no map can take out. Do it before you measure heights with it, and when first layers differ from print to print.`,
    toHand: ['Nothing but your eyes: the plate is clean, nothing hangs from the nozzle.'],
    caution: 'The head moves down onto the plate. Keep a hand on the power switch.',
    choosing: [
      ...temperatures(facts, settings),
      { key: 'touches', label: 'Touches', unit: '', range: [3, 50], value: USUAL_TOUCHES },
      { key: 'limitMm', label: 'May scatter either way by', unit: 'mm', range: [0.001, 1], value: USUAL_LIMIT_MM, help: 'An eighth of a usual first layer.' },
    ],
    after: ['home', ...(probe ? ['probe'] : [])],
    *run(chosen) {
      const warm = yield* warmUp(tool, chosen);
      if (warm) return endedBy(warm);
      const homed = yield* homeAll();
      if (homed) return endedBy(homed);
      const limitMm = numberIn(tool, chosen, 'limitMm');
      const many = Math.round(numberIn(tool, chosen, 'touches'));
      const read = told ? yield* byTouching(many, limitMm) : yield* byHoming(many, limitMm);
      return 'ended' in read ? endedBy(read.ended) : judged(read.readings, limitMm, probe !== undefined);
    },
  };
  return tool;
} // prettier-ignore

type Read = { readings: number[] } | { ended: Answer };

const pictureOf = (readings: readonly number[], limitMm: number, of: number): Picture => ({
  kind: 'readings',
  readings,
  limitMm,
  of,
});

const touchesIn = (lines: readonly string[]): number[] =>
  lines.flatMap((line) => {
    const { word, values } = parseReply(line);
    const height = Number(values['height'] ?? NaN);
    return word === 'repeat' && values['touch'] !== undefined && Number.isFinite(height) ? [height] : [];
  });

function* byTouching(many: number, limitMm: number): Procedure<Read> {
  const answer = yield* ask(`repeat n=${many}`, (lines) => pictureOf(touchesIn(lines), limitMm, many));
  const readings = touchesIn(answer.lines);
  if (answer.problem !== undefined) return { ended: answer };
  return readings.length >= 3
    ? { readings }
    : { ended: { ...answer, problem: 'error: this image does not tell each touch' } };
}

/** Z homed again and again: how far each time it was met from where it was met before, added up. */
function* byHoming(many: number, limitMm: number): Procedure<Read> {
  const readings = [0];
  while (readings.length < many) {
    const answer = yield* ask('G28 Z', () => pictureOf(readings, limitMm, many));
    const off = Number(replies(answer, 'home')[0]?.values['off'] ?? NaN);
    if (answer.problem !== undefined) return { ended: answer };
    if (!Number.isFinite(off))
      return { ended: { ...answer, problem: 'error: this image does not tell how far off it was met' } };
    readings.push((readings.at(-1) ?? 0) + off);
  }
  return { readings };
}

const mm = (value: number) => `${value.toFixed(4)} mm`;

function judged(readings: number[], limitMm: number, isProbe: boolean): Found {
  const result = repeatability({ readings, limitMm });
  const it = isProbe ? 'The probe' : 'The switch';
  const half = result.range / 2;
  const said: Record<Repeatability['verdict'], string> = {
    fine: `${it} meets the same place within ± ${half.toFixed(4)} mm. That is within ± ${limitMm} mm: trust it.`,
    drifting: `${it} drifts: from the first to the last touch by ${signed(result.driftPerReading * (result.n - 1), 3)} mm, more than it scatters. Something still warms or loosens.`,
    poor: `${it} scatters by ± ${half.toFixed(3)} mm, more than ± ${limitMm} mm. Measure nothing with it before that is mended.`,
  };
  return found(
    said[result.verdict],
    {
      evidence: [
        `${result.n} touches: ${readings.map((one) => one.toFixed(4)).join(' ')} mm`,
        `range ${mm(result.range)}, standard deviation ${mm(result.sd)}, drift ${signed(result.driftPerReading, 5)} mm a touch`,
      ],
      figures: [
        { id: 'spread', label: 'Scatter, either way', value: half, unit: 'mm' },
        { id: 'sd', label: 'Standard deviation', value: result.sd, unit: 'mm' },
      ],
      picture: pictureOf(readings, limitMm, result.n),
      ...(result.verdict !== 'fine' && { causes: result.verdict === 'drifting' ? DRIFTS : isProbe ? SCATTERS : SWITCH_SCATTERS }),
    },
    result.verdict === 'fine' ? 'found' : 'poor',
  );
} // prettier-ignore

const DRIFTS = [
  { cause: 'Plate, beam or probe still warm up', look: 'Wait ten minutes at the heat you print at, and judge it again.' },
  { cause: 'Its mount or a screw works loose', look: 'Cold: take hold of the probe and wriggle. Nothing may give.' },
  { cause: 'Z loses steps', look: 'Look at the drivers’ report, and measure the Z current.' },
]; // prettier-ignore
const SCATTERS = [
  { cause: 'Its mount gives, or is sprung', look: 'Cold: push it sideways with a finger. A rigid mount does not move.' },
  { cause: 'Its pin is dirty, bent or loose', look: 'Draw it out by hand: it must slide, and not wobble.' },
  { cause: 'Dirt or a drop of plastic where it meets', look: 'Wipe the plate and the tip, and judge it again.' },
  { cause: 'It is lowered too fast', look: 'Halve the probing speed at Settings.' },
]; // prettier-ignore
const SWITCH_SCATTERS = [
  { cause: 'Its lever is bent or worn', look: 'Press it slowly: it must click at the same place each time.' },
  { cause: 'It is met too fast', look: 'Halve the homing speed of Z at Settings.' },
  { cause: 'Its holder gives', look: 'Cold: push the switch with a finger. Nothing may give.' },
]; // prettier-ignore
