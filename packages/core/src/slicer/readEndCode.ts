import { coldLines } from '../bringup/heatLines';
import { bodyCalled } from '../machine/bodyCalled';
import { type Facts, partFor } from '../machine/facts';
import { WARMED } from '../machine/machine';
import type { Settings } from '../settings/setting';
import { followLines } from './followLines';
import { type GcodeLine, readGcode } from './gcodeLine';
import { heatingsIn } from './heatings';
import type { LineProblem } from './lineProblem';
import { unfitWords } from './lineWords';
import { AFTER_PRINT } from './standing';
import { waitsForMoves } from './waitsForMoves';

/**
 * Reads the G-code a slicer puts after a print against the machine and its firmware: commands this version of the kit does
 * not take with these settings, moves outside the travel or after the motors are off, temperatures above their limits, and
 * what is left hot or goes cold too soon. In the order of the lines; what is missing comes last.
 */
export function readEndCode(text: string, facts: Facts, settings: Settings): LineProblem[] {
  const lines = readGcode(text);
  const last = new Map(heatingsIn(lines, settings).map((heating) => [heating.body, heating]));
  const hot = WARMED.flatMap((body): LineProblem[] => {
    const heating = last.get(body);
    if (!partFor(facts, 'heater', body) || heating?.c === 0) return [];
    const why = `Somebody has to come and switch it off. What makes all cold: ${coldLines(facts).join(', ')}.`;
    if (!heating)
      return [{ line: 0, text: '', what: `The ${bodyCalled(body)} stays as hot as it was.`, why }];
    const { c, at } = heating;
    const what = `The ${bodyCalled(body)} is left ${Number.isNaN(c) ? 'as hot as your slicer says' : `at ${c} °C`}.`;
    return [
      { line: at.line, text: at.text, what, why: Number.isNaN(c) ? `Where that is not 0: ${why}` : why },
    ];
  });
  const told = followLines(lines, facts, settings, AFTER_PRINT).problems.map(
    ({ kind: _, ...problem }) => problem,
  );
  return [...told, ...tooSoon(lines, facts, settings), ...hot].sort(
    (a, b) => (a.line || Infinity) - (b.line || Infinity),
  );
}

/** The line that takes the heat from the last of the print: it is read while moves still wait. */
function tooSoon(lines: readonly GcodeLine[], facts: Facts, settings: Settings): LineProblem[] {
  const waits = lines.find((line) => waitsForMoves(line) && unfitWords(line, facts, settings) === undefined);
  const cold = heatingsIn(lines, settings).find(({ body, c }) => body !== 'bed' && body !== 'chamber' && c === 0);
  if (!cold || (waits && waits.line < cold.at.line)) return [];
  const what = `The ${bodyCalled(cold.body)}’s heat goes off while the last moves of the print still wait.`;
  return [{ line: cold.at.line, text: cold.at.text, what, why: 'Lines are read ahead of the moves. Put M400 before it.' }];
} // prettier-ignore
