import { driverWitnesses } from './driverWitnesses';
import { heatWitnesses } from './heatWitnesses';
import { homingWitnesses } from './homingWitnesses';
import { motionWitnesses } from './motionWitnesses';
import { restWitnesses } from './restWitnesses';
import { panelWitnesses } from './panelWitnesses';
import { secondExtruderWitnesses } from './secondExtruderWitnesses';
import type { Witness } from './witness';

/** One for every option that the kit reads. */
export const witnesses: readonly Witness[] = [
  ...motionWitnesses,
  ...homingWitnesses,
  ...driverWitnesses,
  ...heatWitnesses,
  ...restWitnesses,
  ...panelWitnesses,
  ...secondExtruderWitnesses,
];
