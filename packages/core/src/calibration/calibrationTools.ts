import { ask, askAll } from '../bringup/procedure';
import { extrudersOf } from '../machine/extruders';
import { type Facts, partFor, partsOf } from '../machine/facts';
import { derive } from '../settings/derive';
import type { Settings } from '../settings/setting';
import { calibrationsOf } from './calibrations';
import { type CalibrationTool, endedBy } from './calibrationTool';
import { currentTools } from './currentTool';
import { extruderTools } from './extruderTool';
import { firstLayerTool } from './firstLayerTool';
import { mapTool } from './mapTool';
import { cornerTool, leadTools } from './patternTools';
import { pidTools } from './pidTool';
import { touchesWithNozzle } from '../settings/probeAt';
import { placeTool } from './placeTool';
import { repeatTool } from './repeatTool';
import { centreTool, cubeTool, mountTool } from './sizeTools';
import { tramTool } from './tramTool';
import { zOffsetTool } from './zOffsetTool';
import { zSwitchTool } from './zSwitchTool';

/** Everything that can be measured at this machine, in the order it is done. */
export function calibrationTools(facts: Facts, settings: Settings): CalibrationTool[] {
  const probe = partsOf(facts, 'probe')[0] !== undefined;
  const tools = [
    ...mountTool(facts),
    ...currentTools(facts, settings),
    ...(probe || partFor(facts, 'switch', 'z') ? [repeatTool(facts, settings)] : []),
    ...(probe && !touchesWithNozzle(facts) ? [placeTool(facts, settings)] : []),
    ...pidTools(facts, settings),
    tramTool(facts, settings),
    ...(probe ? [zOffsetTool(facts, settings)] : []),
    ...zSwitchTool(facts, settings),
    mapTool(facts, settings),
    ...extruderTools(facts, settings),
    firstLayerTool(facts, settings),
    ...leadTools(facts, settings),
    cornerTool(facts, settings),
    centreTool(facts),
    cubeTool(facts),
  ];
  return extrudersOf(facts).length > 1 ? tools.map(withExtruder) : tools;
}

/**
 * Where there are two extruders, what is heated and fed is the one that is measured, whichever was in use before; the
 * first one feeds again when it is over, as after a start.
 */
function withExtruder(tool: CalibrationTool): CalibrationTool {
  // What only asks works without power too.
  if (tool.after.length === 0) return tool;
  return {
    ...tool,
    *run(chosen) {
      const refused = yield* askAll([tool.tool ?? 'T0']);
      if (refused) return endedBy(refused);
      const found = yield* tool.run(chosen);
      yield* ask('T0');
      return found;
    },
  };
}

/** What everything is called that can be on record as measured, by its id. */
export const calibrationTitles = (facts: Facts): ReadonlyMap<string, string> =>
  new Map([
    ...calibrationTools(facts, derive(facts)).map(({ id, title }): [string, string] => [id, title]),
    ...calibrationsOf(facts).map(({ id, title }): [string, string] => [id, title]),
  ]);
