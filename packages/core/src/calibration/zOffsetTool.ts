import { type Answer, askAll, type Procedure } from '../bringup/procedure';
import type { Facts } from '../machine/facts';
import { zOffsetFromShim } from '../probe/zOffsetFromShim';
import { numberOf, type Settings } from '../settings/setting';
import {
  type CalibrationTool,
  type ChoiceBefore,
  choiceIn,
  endedBy,
  type Found,
  found,
  missingOf,
  numberIn,
  round,
  signed,
} from './calibrationTool';
import { ABOVE_MM, AGREE_MM, agreed, SHIM, shimRuns } from './shimRuns';
import { onBoard } from './boardSetting';
import { givingNudgeBack } from './givingBack';
import { bare, homeAll, temperatures, warmUp } from './warmUp';

/** A first offset so much too deep lets the nozzle reach the plate from above its limit, mm. */
const TOO_DEEP_MM = 2;

/** The ways to reach below zero where the offset in use stands too high; the first that can be taken is advised. */
const belowZero = (lifts: boolean): readonly ChoiceBefore[] => [
  { id: 'lift', label: 'Lift the soft limit while measuring', ...(lifts ? { why: 'The board lets Z go 3 mm below zero until it is homed again; nothing else is touched.' } : { why: 'The image, as it is set, keeps its soft limits.', notHere: true }) },
  { id: 'deep', label: 'Begin with an offset that is too deep', why: `The board believes the plate to be ${TOO_DEEP_MM} mm lower than it is, and has its own offset back at the end. If the link fails in the middle, power it anew before you print.` },
  { id: 'guided', label: 'By a guided tool of the board', why: 'Lantern takes heights by hand for its map and its tilt, not for the offset.', notHere: true },
  { id: 'tips', label: 'Measure from tip to tip', why: 'With callipers, between the nozzle and the probe where it triggers, cold: the coarsest. Type it at Settings to begin with, and measure by the shim after that.', notHere: true },
]; // prettier-ignore

/** The height of the probe's trigger against the nozzle, by lowering the nozzle onto a shim. */
export function zOffsetTool(facts: Facts, settings: Settings): CalibrationTool {
  const lifts = missingOf(facts, settings, ['limits off']) === undefined;
  const tool: CalibrationTool = {
    id: 'z-offset',
    title: 'Z offset by shim',
    what: 'How far the nozzle still stands above the plate when the probe triggers. It decides the first layer. Measure it after a job on nozzle, hot end, probe tip or mount, and every few months; not after new filament, belts, or another plate of the same kind.',
    toHand: ['A shim: a feeler gauge or a slip of paper, its thickness known', 'A clean nozzle: scrape off what hangs from it'],
    caution: 'The nozzle is lowered onto the plate, hot. Keep your fingers to the edge of the shim, and answer before you pull it.',
    choosing: [
      ...temperatures(facts, settings),
      SHIM,
      {
        key: 'school',
        label: 'And counts as',
        value: 'counted',
        choices: [
          { id: 'counted', label: 'its thickness: zero is the plate itself' },
          { id: 'zero', label: 'zero: the shim is the first gap, and the slicer’s layers begin on it' },
        ],
      },
      {
        key: 'below',
        label: 'To reach below zero',
        value: lifts ? 'lift' : 'deep',
        choices: belowZero(lifts),
        help: 'The first that can be taken is advised: it leaves the least behind.',
      },
    ],
    after: ['home', 'probe'],
    *run(chosen) {
      const shimMm = numberIn(tool, chosen, 'shimMm');
      const countShim = choiceIn(tool, chosen, 'school') === 'counted';
      const warm = yield* warmUp(tool, chosen);
      if (warm) return endedBy(warm);
      const { 'probe.offset.z': had } = yield* onBoard(facts.kit, settings, ['probe.offset.z']);
      const inUse = choiceIn(tool, chosen, 'below') === 'deep' ? round(had - TOO_DEEP_MM, 3) : had;
      const runs = yield* givingNudgeBack(facts, settings, () => shimRuns({ shimMm, expectedMm: round(had - inUse, 3) }, () => begin(facts, settings, { inUse, had, lifts })));
      yield* askAll([...(lifts ? ['limits on'] : []), ...(inUse === had ? [] : [`offset z=${had}`])]);
      return 'ended' in runs ? endedBy(runs.ended) : judged(runs.heights, { had, inUse, shimMm, countShim });
    },
  };
  return tool;
} // prettier-ignore

/** Homed anew and well clear of the plate, the nozzle over the spot where Z was found. */
function* begin(
  facts: Facts,
  settings: Settings,
  { inUse, had, lifts }: { inUse: number; had: number; lifts: boolean },
): Procedure<Answer | undefined> {
  const homed = yield* homeAll();
  if (homed) return homed;
  const spot = (axis: 'x' | 'y') => round(numberOf(settings, `home.spot.${axis}`), 2);
  return yield* askAll([
    ...(inUse === had ? [] : [`offset z=${inUse}`]),
    ...bare(facts, settings),
    ...(lifts ? ['limits off'] : []),
    `G1 Z${ABOVE_MM + Math.max(0, had - inUse)} F600`,
    `G1 X${spot('x')} Y${spot('y')} F3000`,
    'M400',
  ]);
} // prettier-ignore

function judged(
  heights: readonly number[],
  { had, inUse, shimMm, countShim }: { had: number; inUse: number; shimMm: number; countShim: boolean },
): Found {
  const runs = heights.map((one) => one.toFixed(3)).join(', ');
  const evidence = [
    `the shim of ${shimMm} mm dragged at Z ${runs} mm`,
    `offset on the board before: ${had} mm${inUse === had ? '' : `, ${inUse} mm while it was measured`}`,
    countShim ? 'the shim counts as its thickness' : 'the shim counts as zero',
  ];
  const pair = agreed(heights);
  if (!pair)
    return found(
      `${heights.length} runs, and no two within ${AGREE_MM} mm of each other. Nothing was set: judge the probe first.`,
      { evidence, causes: [{ cause: 'The probe scatters', look: 'Judge it: Is the probe to be trusted?' }, { cause: 'Something hangs from the nozzle', look: 'Scrape it clean while it is warm.' }] },
      'poor',
    );
  const shownZ = (pair[0] + pair[1]) / 2;
  const value = round(zOffsetFromShim({ offset: inUse, shownZ, shimMm, countShim }), 3);
  const moved = value - had;
  const words =
    Math.abs(moved) <= AGREE_MM
      ? `The offset is ${value} mm. It was ${had} mm: that held.`
      : `The offset is ${value} mm, ${signed(moved, 3)} mm from the ${had} mm the board had: the nozzle will print ${Math.abs(moved).toFixed(3)} mm ${moved > 0 ? 'higher' : 'lower'}.`;
  return found(words, {
    evidence,
    figures: [{ id: 'offset-z', label: 'Z offset', value, unit: 'mm' }],
    values: [{ key: 'probe.offset.z', value, because: `measured with a shim of ${shimMm} mm${countShim ? '' : ', called zero'}` }],
    lines: [`offset z=${value}`],
    picture: { kind: 'shim', shownZ, stepMm: 0.025, shimMm, runs: heights },
  });
} // prettier-ignore
