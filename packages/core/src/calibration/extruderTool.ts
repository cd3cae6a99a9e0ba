import { type Answer, askAll, measure, type Procedure, show, tell } from '../bringup/procedure';
import type { Kit } from '../kit/kit';
import { heatKey } from '../settings/heatKey';
import { type Extruder, extrudersOf } from '../machine/extruders';
import type { Facts } from '../machine/facts';
import { bodyCalled } from '../machine/bodyCalled';
import { extruderSteps } from '../motion/extruderSteps';
import { numberOf, type Settings } from '../settings/setting';
import { setsLine } from './boardSetting';
import { STEPS_OF } from './calibrations';
import { type CalibrationTool, endedBy, type Found, found, numberIn, round, signed } from './calibrationTool';
import { givingBack } from './givingBack';

/** A ruler is read so finely, mm. */
const RULER_MM = 0.1;
/** A drive that feeds within this share of what was asked agrees. */
const AGREES = 0.01;
const MOST_RUNS = 4;
/** The mark stays above the entry by this at least, mm. */
const FREE_MM = 10;
/** So slowly that the melt is no hindrance, in mm/min. */
const FEED_MM_MIN = 80;

/** Steps of each extruder's drive, by a mark on the filament. */
export const extruderTools = (facts: Facts, settings: Settings): CalibrationTool[] =>
  extrudersOf(facts).map((extruder) => extruderTool(facts, settings, extruder));

function extruderTool(facts: Facts, settings: Settings, extruder: Extruder): CalibrationTool {
  const { name, axis, hotend } = extruder;
  const called = bodyCalled(hotend);
  const drive = driveOf(facts.kit, extruder);
  const most = numberOf(settings, `heat.${heatKey(hotend)}.max`);
  const hot = Math.min(numberOf(settings, 'preset.one.hotend') + 10, most);
  const tool: CalibrationTool = {
    id: STEPS_OF[extruder.key],
    title: `${name} steps by measuring`,
    what: 'How far the drive really feeds for what it is asked. Measure it after another drive, another motor or other microsteps; never set it by the look of a print.',
    toHand: ['A pen and a ruler', `Filament in the ${called}, a hand’s breadth of it free above`],
    caution: `The ${called} is hot and plastic comes out of it. Keep your fingers at the filament above.`,
    choosing: [
      { key: 'hotendC', label: 'Hot end', unit: '°C', range: [numberOf(settings, 'extrude.from'), most], value: hot, help: 'A little hotter than you print: the melt must not hold it back.' },
      { key: 'markMm', label: 'The mark is above the entry by', unit: 'mm', range: [20, 400], value: 120 },
      { key: 'askedMm', label: 'Feed', unit: 'mm', range: [10, 200], value: 100, help: 'Less than to the mark, so that it does not go in.' },
    ],
    after: [`heat-${hotend}`, `motor-${axis}`],
    ...(extruder.tool && { tool: extruder.tool }),
    *run(chosen) {
      const askedMm = numberIn(tool, chosen, 'askedMm');
      const markMm = Math.max(numberIn(tool, chosen, 'markMm'), askedMm + FREE_MM);
      yield* tell(`The ${called} warms. Nothing is fed while it is cold.`);
      const warm = yield* askAll([`M109 S${numberIn(tool, chosen, 'hotendC')}`]);
      if (warm) return endedBy(warm);
      return yield* givingBack(facts, settings, [drive.key], function* ({ [drive.key]: had = NaN }) {
        const result = yield* untilItAgrees(drive, had, markMm, askedMm);
        return 'ended' in result ? endedBy(result.ended) : judged(drive, result.runs, had, askedMm);
      });
    },
  };
  return tool;
} // prettier-ignore

/** What its steps are called, and the line by which the board takes them. */
interface Drive {
  key: string;
  label: string;
  figure: string;
  line: (steps: number) => string;
}
function driveOf(kit: Kit, { key, name }: Extruder): Drive {
  const steps = `steps.${key}`;
  return {
    key: steps,
    label: `${name} steps`,
    figure: `steps-${key}`,
    line: (value) => setsLine(kit, { [steps]: value }),
  };
}

interface Fed {
  stepsBefore: number;
  movedMm: number;
  steps: number;
  again: boolean;
}

/** Fed and measured with the steps found so far, until what is asked and what goes agree. */
function* untilItAgrees(
  drive: Drive,
  had: number,
  markMm: number,
  askedMm: number,
): Procedure<{ runs: Fed[] } | { ended: Answer }> {
  const runs: Fed[] = [];
  let steps = had;
  while (runs.length < MOST_RUNS) {
    yield* show({ kind: 'filament', askedMm, markMm });
    const marked = yield* measure({
      text: `Mark the filament ${markMm} mm above where it goes in. Then say how far above it really is.`,
      label: 'The mark is above the entry by',
      unit: 'mm',
      range: [askedMm + 1, 500],
      near: markMm,
      about: 'filament mark',
    });
    if ('ended' in marked) return marked;
    yield* tell(`It feeds ${askedMm} mm, slowly.`);
    const fed = yield* askAll(['M83', `G1 E${askedMm} F${FEED_MM_MIN}`, 'M400']);
    if (fed) return { ended: fed };
    const left = yield* measure({
      text: 'Measure again: how much is left from the entry to the mark?',
      label: 'Left to the mark',
      unit: 'mm',
      range: [0, marked.read],
      near: marked.read - askedMm,
      about: 'filament left',
    });
    if ('ended' in left) return left;
    yield* show({ kind: 'filament', askedMm, markMm: marked.read, leftMm: left.read });
    if (left.read >= marked.read - 0.5)
      return { ended: { lines: [], problem: 'error: nothing was fed; look at the drive, and whether the nozzle is blocked' } };
    const { movedMm, stepsPerMm, verdict } = extruderSteps({ currentStepsPerMm: steps, askedMm, markMm: marked.read, leftMm: left.read });
    runs.push({ stepsBefore: steps, movedMm, steps: stepsPerMm, again: verdict === 'measure again' });
    if (Math.abs(movedMm / askedMm - 1) <= AGREES + 1e-9) return { runs };
    if (verdict === 'measure again') continue;
    steps = round(stepsPerMm, 2);
    const set = yield* askAll([drive.line(steps)]);
    if (set) return { ended: set };
  }
  return { runs };
} // prettier-ignore

function judged(drive: Drive, runs: readonly Fed[], had: number, askedMm: number): Found {
  const last = runs.at(-1);
  const evidence = runs.map(({ stepsBefore, movedMm }) => `asked ${askedMm} mm at ${stepsBefore} steps/mm, ${movedMm.toFixed(1)} mm went`); // prettier-ignore
  if (!last || Math.abs(last.movedMm / askedMm - 1) > AGREES + 1e-9)
    return found(
      `${runs.length} times, and it does not agree with itself within 1 %. The board has its ${had} steps/mm again.`,
      {
        evidence,
        causes: [
          { cause: 'The drive slips', look: 'Feel the filament: a flat ground into it tells. Tighten its lever, or heat more.' },
          { cause: 'The nozzle is partly blocked', look: 'Does it come out straight, and as thick as the nozzle?' },
          { cause: 'The mark was misread', look: 'Measure both times from the same edge.' },
        ],
      },
      'poor',
    ); // prettier-ignore
  const value = last.stepsBefore;
  const change = (value / had - 1) * 100;
  // No nearer than a ruler is read.
  const within = (Math.max(Math.abs(last.movedMm - askedMm), RULER_MM) / askedMm) * 100;
  return found(
    Math.abs(change) < 0.05
      ? `It feeds what it is asked, within ${within.toFixed(1)} %. The ${had} steps/mm stay.`
      : `${value} steps/mm feed what is asked, within ${within.toFixed(1)} %. It had ${had}: ${signed(change, 1)} %.`,
    {
      evidence,
      figures: [{ id: drive.figure, label: drive.label, value, unit: 'steps/mm' }],
      values: [
        {
          key: drive.key,
          value,
          because: `measured: ${askedMm} mm asked, ${last.movedMm.toFixed(1)} mm went`,
        },
      ],
      lines: [drive.line(value)],
    },
  );
}
