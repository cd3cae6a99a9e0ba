import { USUAL_LIMIT_MM, repeatability } from '@jolly/core/probe/repeatability';
import { zOffsetFromShim } from '@jolly/core/probe/zOffsetFromShim';
import { overrideEdit } from '@jolly/core/machine/edit';
import { numberOf } from '@jolly/core/settings/setting';
import { INSET_MM, turnInWords, turnsFor } from '@jolly/core/calibration/tramTool';
import { readNumber } from '../ui/readNumber';
import { type Tool, type Typed, TypedError } from './tool';
import { choice, field, measured, numberIn, short } from './typed';

/** What was measured by hand, or told by another host, instead of by the tools of Calibrate. */

/** The numbers of a pasted text, one or several a line, inches too where they say so. @throws {TypedError} naming the first that is none */
function readingsIn(typed: Typed, key: string, label: string): number[] {
  const words = (typed[key] ?? '').split(/[\n;]|,\s|\s{2,}|\t/).map((word) => word.trim()).filter(Boolean); // prettier-ignore
  return words.map((word, index) => {
    const value = readNumber(word, 'mm');
    if (value === undefined)
      throw new TypedError(`${label}: number ${index + 1}, “${word}”, is no height in mm`);
    return value;
  });
}

const scatter: Tool = {
  id: 'scatter',
  title: 'Scatter of the probe, by readings',
  parts: ['probe', 'z'],
  doing: 'Paste the heights of one place that was touched again and again, each in a line of its own. At least three.',
  fields: () => [
    { ...measured('readings', 'Readings', 'mm', '0.012\n0.014\n0.011'), lines: true },
    field('limit', 'May scatter either way by', 'mm', USUAL_LIMIT_MM),
  ],
  work: (typed) => {
    const readings = readingsIn(typed, 'readings', 'Readings');
    if (readings.length < 3) throw new TypedError(`Readings: ${readings.length === 0 ? 'none yet' : readings.length}; three at least`);
    const limitMm = numberIn(typed, 'limit', 'May scatter either way by', 'mm');
    const { n, range, sd, driftPerReading, verdict } = repeatability({ readings, limitMm });
    const words = { fine: 'trust it', drifting: 'it drifts', poor: 'it scatters too much' };
    return {
      lines: [
        `${n} readings within ± ${short(range / 2)} mm, standard deviation ${short(sd)} mm.`,
        `From the first to the last it drifts by ${short(driftPerReading * (n - 1), 3)} mm.`,
      ],
      verdict: { tone: verdict === 'fine' ? 'good' : 'bad', words: words[verdict] },
    };
  },
}; // prettier-ignore

const offsetByShim: Tool = {
  id: 'offset-by-shim',
  title: 'Z offset by a shim, by hand',
  parts: ['probe'],
  doing: 'Home, lower the nozzle onto a shim until it drags, and type the height the board shows there. The offset is the one that was in use while you did it.',
  fields: ({ settings }) => [
    field('offset', 'Offset in use', 'mm', numberOf(settings, 'probe.offset.z')),
    measured('shown', 'Z shown where it drags', 'mm', 0.15),
    measured('shim', 'The shim is', 'mm', 0.1),
    choice('school', 'And counts as', { counted: 'its thickness', zero: 'zero' }, 'counted'),
  ],
  work: (typed) => {
    const shimMm = numberIn(typed, 'shim', 'The shim is', 'mm');
    const countShim = typed['school'] !== 'zero';
    const value = zOffsetFromShim({
      offset: numberIn(typed, 'offset', 'Offset in use', 'mm'),
      shownZ: numberIn(typed, 'shown', 'Z shown where it drags', 'mm'),
      shimMm,
      countShim,
    });
    const rounded = Number(value.toFixed(3));
    return {
      lines: [`The offset is ${rounded} mm. The board has it only once it is told, or flashed.`],
      apply: {
        label: `Z offset ${rounded} mm`,
        edits: [overrideEdit('probe.offset.z', rounded, `by hand with a shim of ${shimMm} mm${countShim ? '' : ', called zero'}`)],
      },
    };
  },
}; // prettier-ignore

const CORNERS = [['fl', 'Front left'], ['fr', 'Front right'], ['bl', 'Back left'], ['br', 'Back right']] as const; // prettier-ignore

const screws: Tool = {
  id: 'screws-by-hand',
  title: 'How far to turn each screw',
  parts: ['frame'],
  doing: `Feel the same shim at the four corners, ${INSET_MM} mm in from the edges, and type the height shown at each. A higher number is a higher plate.`,
  fields: ({ machine }) => [
    ...CORNERS.map(([key, label]) => measured(key, label, 'mm', 0.1)),
    field('pitch', 'A full turn raises by', 'mm', machine.frame.screws?.pitch_mm ?? 0.7),
  ],
  work: (typed, { machine }) => {
    const described = machine.frame.screws;
    if (!described) throw new TypedError('Where the screws stand is not in the machine file; tram once at Calibrate, it asks for them');
    const { x, y } = machine.frame.bed_mm;
    const at = Object.fromEntries(CORNERS.map(([key, label]) => [key, numberIn(typed, key, label, 'mm')]));
    const map = {
      xs: [x[0] + INSET_MM, x[1] - INSET_MM],
      ys: [y[0] + INSET_MM, y[1] - INSET_MM],
      z: [[at['fl'] ?? NaN, at['fr'] ?? NaN], [at['bl'] ?? NaN, at['br'] ?? NaN]],
    };
    const turns = turnsFor(map, { ...described, pitch_mm: numberIn(typed, 'pitch', 'A full turn raises by', 'mm') });
    const moved = turns.filter(({ move }) => move !== 'leave');
    return {
      lines: moved.length === 0 ? ['Nothing to turn.'] : moved.map((turn) => `Turn ${turnInWords(turn)}.`),
      verdict: moved.length === 0 ? { tone: 'good', words: 'level' } : { tone: 'plain', words: 'then measure again' },
    };
  },
}; // prettier-ignore

export const measuredTools: Tool[] = [scatter, offsetByShim, screws];
