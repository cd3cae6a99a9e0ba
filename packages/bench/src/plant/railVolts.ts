import { supplyVolts } from '@jolly/core/board/board';
import type { SupplySource } from '@jolly/core/board/net';
import type { Live } from './live';

/** What the supply feeds, and USB does not. */
const NOT_OF_USB: ReadonlySet<SupplySource> = new Set(['vin', '12v']);

/** What stands on a rail of a board whose logic is fed, in V. */
export const railVolts = ({ facts, supplyOff }: Live, source: SupplySource): number =>
  supplyOff && NOT_OF_USB.has(source) ? 0 : supplyVolts(source, facts.machine.supply.volts_v);
