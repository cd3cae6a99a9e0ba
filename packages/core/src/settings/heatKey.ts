import { type Heated, SECOND_HOTEND, type Warmed } from '../machine/machine';

export type HeatKey = Heated | 'second-hotend' | 'chamber';

/** What a heated body is called in the keys of its settings: `heat.second-hotend.max`, `pid.bed.p`. */
export const heatKey = (body: Warmed): HeatKey => (body === SECOND_HOTEND ? 'second-hotend' : body);
