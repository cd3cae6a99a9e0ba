import { holesFit } from '../board/holesFit';
import { cubeVerdict } from '../calibration/cubeVerdict';
import { extruderSteps } from '../calibration/extruderSteps';
import { fitHeater } from '../calibration/fitHeater';
import { relayPid } from '../calibration/relayPid';
import { dividerFor } from '../electricity/dividerFor';
import { driverReference, motorCurrent } from '../electricity/driverReference';
import { heaterLoad } from '../electricity/heaterLoad';
import { supplyBudget } from '../electricity/supplyBudget';
import { wireCheck } from '../electricity/wireCheck';
import { cardName } from '../flash/cardName';
import { fromHex, toHex } from '../formats/intelHex';
import { parseDump } from '../formats/parseDump';
import { fromUf2, toUf2 } from '../formats/uf2';
import { crc32 } from '../image/crc32';
import { baudError } from '../settings/baudError';
import { deviationFromJolt, joltFromDeviation } from '../settings/cornering';
import { crossBeltDirections } from '../settings/crossBeltDirections';
import { directionAfterSwap } from '../settings/directionAfterSwap';
import { guardCheck } from '../settings/guardCheck';
import { likelySensors } from '../settings/likelySensors';
import { mapGrid } from '../settings/mapGrid';
import { mapTime } from '../settings/mapTime';
import { probeOffset } from '../settings/probeOffset';
import { probeReach } from '../settings/probeReach';
import { stepsPerMm } from '../settings/stepsPerMm';
import { adcToC, thermistorC } from '../settings/thermistor';
import { topSpeed } from '../settings/topSpeed';
import type { Calculation } from './calculation';

const all = [
  stepsPerMm,
  topSpeed,
  deviationFromJolt,
  joltFromDeviation,
  directionAfterSwap,
  crossBeltDirections,
  extruderSteps,
  cubeVerdict,
  heaterLoad,
  wireCheck,
  supplyBudget,
  driverReference,
  motorCurrent,
  dividerFor,
  baudError,
  thermistorC,
  adcToC,
  likelySensors,
  relayPid,
  fitHeater,
  guardCheck,
  probeOffset,
  probeReach,
  mapGrid,
  mapTime,
  crc32,
  cardName,
  holesFit,
  toHex,
  fromHex,
  toUf2,
  fromUf2,
  parseDump,
] as unknown as Calculation<unknown, unknown>[];

/** Every calculation the command line can run, by name. */
export const calculations: ReadonlyMap<string, Calculation<unknown, unknown>> = new Map(
  all.map((calc) => [calc.calcName, calc]),
);
