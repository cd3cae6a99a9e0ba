import { type Facts, partsOf } from '../machine/facts';
import { derive } from '../settings/derive';
import type { Settings } from '../settings/setting';
import { calibrationsOf } from './calibrations';
import type { CalibrationTool } from './calibrationTool';
import { currentTools } from './currentTool';
import { extruderTool } from './extruderTool';
import { firstLayerTool } from './firstLayerTool';
import { mapTool } from './mapTool';
import { cornerTool, leadTool } from './patternTools';
import { pidTools } from './pidTool';
import { placeTool } from './placeTool';
import { repeatTool } from './repeatTool';
import { centreTool, cubeTool, mountTool } from './sizeTools';
import { tramTool } from './tramTool';
import { zOffsetTool } from './zOffsetTool';
import { zSwitchTool } from './zSwitchTool';

/** Everything that can be measured at this machine, in the order it is done. */
export function calibrationTools(facts: Facts, settings: Settings): CalibrationTool[] {
  const probe = partsOf(facts, 'probe')[0] !== undefined;
  return [
    ...mountTool(facts),
    ...currentTools(facts, settings),
    repeatTool(facts, settings),
    ...(probe ? [placeTool(facts, settings)] : []),
    ...pidTools(facts, settings),
    tramTool(facts, settings),
    ...(probe ? [zOffsetTool(facts, settings)] : []),
    ...zSwitchTool(facts, settings),
    mapTool(facts, settings),
    extruderTool(facts, settings),
    firstLayerTool(facts, settings),
    leadTool(facts, settings),
    cornerTool(facts, settings),
    centreTool(facts),
    cubeTool(facts),
  ];
}

/** What everything is called that can be on record as measured, by its id. */
export const calibrationTitles = (facts: Facts): ReadonlyMap<string, string> =>
  new Map([
    ...calibrationTools(facts, derive(facts)).map(({ id, title }): [string, string] => [id, title]),
    ...calibrationsOf(facts).map(({ id, title }): [string, string] => [id, title]),
  ]);
