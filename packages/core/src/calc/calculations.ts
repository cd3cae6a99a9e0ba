import { holesFit } from '../board/holesFit';
import { cubeVerdict } from '../motion/cubeVerdict';
import { extruderSteps } from '../motion/extruderSteps';
import { fitHeater } from '../heat/fitHeater';
import { relayPid } from '../heat/relayPid';
import { dividerFor } from '../electricity/dividerFor';
import { driverReference, motorCurrent } from '../electricity/driverReference';
import { heaterLoad } from '../electricity/heaterLoad';
import { supplyBudget } from '../electricity/supplyBudget';
import { wireCheck } from '../electricity/wireCheck';
import { cardName } from '../flash/cardName';
import { fromHex, toHex } from '../bytes/intelHex';
import { parseDump } from '../report/parseDump';
import { fromUf2, toUf2 } from '../bytes/uf2';
import { crc32 } from '../bytes/crc32';
import { baudError } from '../electricity/baudError';
import { deviationFromJolt, joltFromDeviation } from '../motion/cornering';
import { crossBeltDirections } from '../motion/crossBeltDirections';
import { directionAfterSwap } from '../motion/directionAfterSwap';
import { guardCheck } from '../heat/guardCheck';
import { betaFrom } from '../heat/betaFrom';
import { likelySensors } from '../heat/likelySensors';
import { mapGrid } from '../probe/mapGrid';
import { mapTime } from '../probe/mapTime';
import { probeOffset } from '../probe/probeOffset';
import { probeReach } from '../probe/probeReach';
import { repeatability } from '../probe/repeatability';
import { zOffsetFromShim } from '../probe/zOffsetFromShim';
import { coarserMap } from '../plate/coarserMap';
import { mapAt } from '../plate/mapAt';
import { mapShape } from '../plate/mapShape';
import { planeFit } from '../plate/planeFit';
import { screwTurns } from '../plate/screwTurns';
import { likelyDrives } from '../motion/likelyDrives';
import { fitFeatures } from '../solver/fitFeatures';
import { stepsPerMm } from '../motion/stepsPerMm';
import { adcToC, thermistorC } from '../heat/thermistor';
import { topSpeed } from '../motion/topSpeed';
import type { Calculation } from '../calculation/calculation';

// Each has its own input and output; they are called by name, with input that is checked there.
const all = [
  stepsPerMm,
  fitFeatures,
  likelyDrives,
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
  betaFrom,
  likelySensors,
  relayPid,
  fitHeater,
  guardCheck,
  probeOffset,
  probeReach,
  mapGrid,
  mapTime,
  zOffsetFromShim,
  repeatability,
  planeFit,
  screwTurns,
  mapAt,
  coarserMap,
  mapShape,
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
