import { type Answer, askAll, type Procedure } from '../bringup/procedure';
import { type Facts, partFor, partsOf } from '../machine/facts';
import type { Settings } from '../settings/setting';
import {
  type CalibrationTool,
  endedBy,
  type Found,
  found,
  missingOf,
  numberIn,
  round,
  signed,
} from './calibrationTool';
import { givingNudgeBack } from './givingBack';
import { ABOVE_MM, AGREE_MM, agreed, SHIM, shimRuns } from './shimRuns';
import { bare, homeAll, temperatures, warmUp } from './warmUp';

/** A switch that stands no further off than this is left, mm. */
const RIGHT_MM = 0.05;

/** Without a probe: how far the Z switch stands off, by a shim in the middle of the plate. */
export function zSwitchTool(facts: Facts, settings: Settings): CalibrationTool[] {
  if (partsOf(facts, 'probe')[0] || !partFor(facts, 'switch', 'z')) return [];
  const lifts = missingOf(facts, settings, ['limits off']) === undefined;
  const tool: CalibrationTool = {
    id: 'z-switch',
    title: 'Height of the Z switch by shim',
    what: 'Whether the nozzle stands on the plate where Z says 0. Without a probe the switch alone decides that: what it is off by, you move it. After a job on nozzle, hot end, plate or switch, and every few months.',
    toHand: ['A shim, its thickness known', 'A key for the screw of the switch'],
    caution: 'The nozzle is lowered onto the plate, hot. Keep your fingers to the edge of the shim.',
    choosing: [
      ...temperatures(facts, settings),
      SHIM,
    ],
    after: ['home'],
    *run(chosen) {
      const shimMm = numberIn(tool, chosen, 'shimMm');
      const warm = yield* warmUp(tool, chosen);
      if (warm) return endedBy(warm);
      const runs = yield* givingNudgeBack(facts, settings, () => shimRuns({ shimMm, expectedMm: 0 }, () => above(facts, settings, lifts)));
      yield* askAll(lifts ? ['limits on'] : []);
      return 'ended' in runs ? endedBy(runs.ended) : judged(runs.heights, shimMm);
    },
  };
  return [tool];
} // prettier-ignore

function* above(facts: Facts, settings: Settings, lifts: boolean): Procedure<Answer | undefined> {
  const homed = yield* homeAll();
  if (homed) return homed;
  const { x, y } = facts.machine.frame.bed_mm;
  return yield* askAll([
    ...bare(facts, settings),
    ...(lifts ? ['limits off'] : []),
    `G1 Z${ABOVE_MM} F600`,
    `G1 X${round((x[0] + x[1]) / 2, 1)} Y${round((y[0] + y[1]) / 2, 1)} F3000`,
    'M400',
  ]);
}

function judged(heights: readonly number[], shimMm: number): Found {
  const evidence = [`the shim of ${shimMm} mm dragged at Z ${heights.map((one) => one.toFixed(3)).join(', ')} mm`];
  if (!agreed(heights))
    return found(`${heights.length} runs, and no two within ${AGREE_MM} mm: judge the switch first.`, { evidence }, 'poor');
  const off = round((heights.at(-1) ?? 0) - shimMm, 3);
  const figures = [{ id: 'switch-off', label: 'Z switch stands off by', value: off, unit: 'mm' }];
  const picture = { kind: 'shim', shownZ: heights.at(-1) ?? 0, stepMm: 0.025, shimMm, runs: heights } as const;
  if (Math.abs(off) <= RIGHT_MM) return found(`Zero is the plate, within ${Math.abs(off).toFixed(3)} mm. Leave the switch.`, { evidence, figures, picture });
  return found(
    `Zero lies ${Math.abs(off).toFixed(3)} mm ${off < 0 ? 'above' : 'below'} the plate (${signed(off, 3)} mm). Move its switch by as much, so that it is met with the nozzle ${off < 0 ? 'nearer to' : 'farther from'} the plate, then measure again.`,
    { evidence, figures, picture },
    'poor',
  );
} // prettier-ignore
