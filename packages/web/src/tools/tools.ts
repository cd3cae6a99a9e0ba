import type { PartId } from '@jolly/session/machineParts';
import { heatTools } from './heatTools';
import { measuredTools } from './measuredTools';
import { motionTools } from './motionTools';
import { probeTools } from './probeTools';
import type { Tool } from './tool';

/** Every guided tool. */
export const TOOLS: readonly Tool[] = [...motionTools, ...heatTools, ...probeTools, ...measuredTools];

export const toolsFor = (part: PartId): Tool[] => TOOLS.filter(({ parts }) => parts.includes(part));
