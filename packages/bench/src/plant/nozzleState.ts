import type { Truth } from './truth';

const TOUCHES_MM = 0.05;
const RAMS_MM = 0.3;

/** How a nozzle stands to the plate below it. */
export function nozzleState(above: number | undefined, dragged: boolean): Truth['nozzle'] {
  if (above === undefined || above > TOUCHES_MM) return 'clear';
  if (above < -RAMS_MM) return 'rams';
  return dragged ? 'drags' : 'touches';
}
