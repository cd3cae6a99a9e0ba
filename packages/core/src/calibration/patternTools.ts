import { choose, type Measure, measure } from '../bringup/procedure';
import { type Extruder, extrudersOf } from '../machine/extruders';
import type { Facts } from '../machine/facts';
import { setsLine } from './boardSetting';
import { deviationFromJolt } from '../motion/cornering';
import { numberOf, type Settings } from '../settings/setting';
import { type Band, bandPattern, type Pattern } from '../slicer/bandPattern';
import { type CalibrationTool, endedBy, type Found, found, missingOf, round } from './calibrationTool';

/** A pattern that is printed from a file and read off by a person: its G-code, made for this machine, and its bands. */
export interface PatternTool extends CalibrationTool {
  pattern: { name: string; gcode: () => string; bands: readonly Band[] };
}

const BANDS = 8;
const PRINT_MM_MIN = 1200;

const readBand = (text: string, many: number): Measure => ({
  text,
  label: 'The best band is number',
  unit: '',
  range: [1, many],
  about: 'band',
});

/** Corner speed, in either school: bands ever faster round sharp corners, up to what is allowed at once now. */
export function cornerTool(facts: Facts, settings: Settings): PatternTool {
  const jolt = Math.min(numberOf(settings, 'corner.jolt.x'), numberOf(settings, 'corner.jolt.y'));
  const accel = Math.min(numberOf(settings, 'accel.x'), numberOf(settings, 'accel.y'));
  const byDeviation = settings.get('corner.by')?.value === 'deviation';
  const now = byDeviation
    ? Math.sqrt((numberOf(settings, 'corner.deviation') * accel) / 0.4)
    : jolt;
  const speeds = Array.from({ length: BANDS }, (_, nth) => round((now * (nth + 1)) / BANDS, 1));
  const bands = speeds.map((speed): Band => ({ label: `${speed} mm/s through the corners`, slow: speed * 60, fast: Math.round(speed * 60) }));
  return {
    ...patternOf(facts, settings, 'corners', { title: 'Corners', bands, way: 'zigzag' }),
    id: 'corners',
    title: 'Corners',
    what: 'How fast corners may be taken. Lower it when edges ring: ripples behind each sharp corner. After a job on belts, frame or what the head weighs.',
    toHand: ['A card or a slicer to print a file with', 'Light from the side: ripples show as shadows'],
    choosing: [],
    after: ['home', 'heat-hotend'],
    *run() {
      const seen = yield* choose({
        text: 'Look along the print with light from the side. Do any of its bands ring?',
        about: 'ringing',
        choices: [{ id: 'none', label: 'None rings', keys: ['Enter', ' '] }, { id: 'some', label: 'Some ring', keys: ['+'] }],
      });
      if ('ended' in seen) return endedBy(seen.ended);
      if (seen.chosen === 'none')
        return found(`None rings up to the ${round(now, 1)} mm/s corners are taken at now. It stays: a pattern tells nothing of speeds this machine does not use.`, { evidence: [`${BANDS} bands, up to ${round(now, 1)} mm/s`] });
      const band = yield* measure(readBand('Count from the front. Which is the last band that does not ring?', BANDS));
      return 'ended' in band ? endedBy(band.ended) : judgedCorner(speeds[Math.round(band.read) - 1] ?? now, { now, accel, byDeviation });
    },
  };
} // prettier-ignore

function judgedCorner(
  speed: number,
  { now, accel, byDeviation }: { now: number; accel: number; byDeviation: boolean },
): Found {
  const because = `the last band that did not ring was taken at ${speed} mm/s`;
  const evidence = [because, `it was ${round(now, 1)} mm/s`];
  if (byDeviation) {
    const value = round(deviationFromJolt({ joltMmS: speed, accelMmS2: accel }), 4);
    const figures = [{ id: 'corner', label: 'Corners taken at', value: speed, unit: 'mm/s' }, { id: 'corner-deviation', label: 'Corner deviation', value, unit: 'mm' }];
    return found(`Corners at ${speed} mm/s: a deviation of ${value} mm at ${accel} mm/s². Build and flash for it to count.`, { evidence, figures, values: [{ key: 'corner.deviation', value, because }] });
  }
  const figures = [{ id: 'corner', label: 'Corners taken at', value: speed, unit: 'mm/s' }, ...(['x', 'y'] as const).map((axis) => ({ id: `corner-jolt-${axis}`, label: `${axis.toUpperCase()} jolt`, value: speed, unit: 'mm/s' }))];
  return found(`Corners at ${speed} mm/s: that is the jolt of X and Y. Build and flash for it to count.`, { evidence, figures, values: (['x', 'y'] as const).map((axis) => ({ key: `corner.jolt.${axis}`, value: speed, because })) });
} // prettier-ignore

/** Extrusion lead of each extruder: bands with ever more of it, slow at both ends and fast in the middle. */
export const leadTools = (facts: Facts, settings: Settings): PatternTool[] => {
  const second = extrudersOf(facts)[1];
  return [leadTool(facts, settings), ...(second ? [leadTool(facts, settings, second)] : [])];
};

function leadTool(facts: Facts, settings: Settings, second?: Extruder): PatternTool {
  const missing = missingOf(facts, settings, ['lead']);
  const [first] = extrudersOf(facts);
  const extruder = second ?? first;
  const id = second ? 'second-lead' : 'lead';
  const key = second ? 'lead.time.second-e' : 'lead.time';
  const title = second ? 'Extrusion lead of the second extruder' : 'Extrusion lead';
  const lineOf = (lead: number) => setsLine(facts.kit, { [key]: lead });
  const now = numberOf(settings, key);
  const most = Math.max(0.14, 2 * now);
  const leads = Array.from({ length: BANDS }, (_, nth) => round((most * nth) / (BANDS - 1), 3));
  const fast = Math.round(Math.min(numberOf(settings, 'speed.x'), 80) * 60);
  const bands = leads.map((lead): Band => ({ label: `lead ${lead} s`, before: lineOf(lead), slow: PRINT_MM_MIN, fast }));
  return {
    ...patternOf(facts, settings, id, { title, bands, way: 'line', extruder }),
    id,
    title,
    what: 'How far the drive runs ahead of changes of speed. Too little: a bulge where it slows, a gap where it hurries; too much: the other way round. After another hot end, nozzle, drive, or a much softer plastic.',
    toHand: ['A card or a slicer to print a file with', 'A magnifier helps'],
    choosing: [],
    after: ['home', `heat-${extruder?.hotend ?? 'hotend'}`, `motor-${extruder?.axis ?? 'e'}`],
    ...(extruder?.tool && { tool: extruder.tool }),
    ...(missing && { missing }),
    *run() {
      const band = yield* measure(readBand('Count from the front. Which line is as wide where it hurries and slows as in between?', BANDS));
      if ('ended' in band) return endedBy(band.ended);
      const value = leads[Math.round(band.read) - 1] ?? now;
      const because = `band ${Math.round(band.read)} of the pattern was even`;
      return found(`A lead of ${value} s. The file had ${now} s.`, {
        evidence: [because, `bands from ${leads[0]} to ${leads.at(-1)} s`],
        figures: [{ id, label: title, value, unit: 's' }],
        values: [{ key, value, because }],
        lines: [lineOf(value)],
      });
    },
  };
} // prettier-ignore

function patternOf(facts: Facts, settings: Settings, name: string, how: Pattern) {
  return { pattern: { name: `${facts.machine.id}-${name}.gcode`, gcode: () => bandPattern(facts, settings, how), bands: how.bands } };
} // prettier-ignore

export const isPattern = (tool: CalibrationTool): tool is PatternTool => 'pattern' in tool;
