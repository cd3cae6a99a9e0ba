import type { Costs } from '@jolly/core/fit/chooseFit';
import { bytesInWords } from '@jolly/core/text/bytesInWords';

const secondsInWords = (ms: number) => `${(ms / 1000).toFixed(1)} s`;

/** What more compiler effort gives in bytes and costs in time, as it was measured here. */
export function effortInWords({ saves, linkMs }: NonNullable<Costs['effort']>): string {
  const gives = `All sources once more as one: ${bytesInWords(saves.flash)} of flash and ${bytesInWords(saves.ram)} of RAM become free, as built.`;
  return linkMs
    ? `${gives} Linking, which every change asks for, then takes ${secondsInWords(linkMs.harder)} instead of ${secondsInWords(linkMs.plain)}, as measured here.`
    : `${gives} What it costs in time was not measured: measure again.`;
}
