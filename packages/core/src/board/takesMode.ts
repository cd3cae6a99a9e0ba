import type { DriverPart } from '../parts/part';
import type { Socket } from './board';

/** Whether a socket has the line over which a driver of this mode is set up; one by itself needs none. */
export const takesMode = ({ serial, select }: Socket, mode: DriverPart['mode']): boolean =>
  mode === 'stand-alone' || (mode === 'serial' ? serial : select) !== undefined;
