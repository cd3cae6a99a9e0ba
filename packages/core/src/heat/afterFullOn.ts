/** How a body warms at full power: first order with a time constant, over the room. */
interface Warming {
  gainC: number;
  tauS: number;
  ambientC: number;
}

/**
 * Where a body comes to that is at `fromC` and whose heater stays full on for `seconds`, in °C: it nears gain + ambient
 * as 1 − e^(−t/τ) does. Its dead time is left out, which errs to the hot side.
 */
export function afterFullOn({ gainC, tauS, ambientC }: Warming, fromC: number, seconds: number): number {
  const hottest = gainC + ambientC;
  return hottest - (hottest - fromC) * Math.exp(-seconds / tauS);
}
