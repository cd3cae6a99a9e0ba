import type { Picture } from '@jolly/core/bringup/picture';
import type { Measure, Question } from '@jolly/core/bringup/procedure';
import { feelOf, strandsOf } from '@jolly/core/calibration/feel';
import { STRIP_LAYER_MM } from '@jolly/core/slicer/stripPattern';
import type { PlantView } from '../plant/truth';

/** What somebody standing at the bench's machine feels, sees and reads off while something is measured. */
export interface Senses {
  /** The choice that what they see makes; undefined where looking does not tell. */
  see(question: Question, view: PlantView, picture: Picture | undefined): string | undefined;
  /** What a ruler or a mark shows; undefined where there is nothing to read. */
  read(measure: Measure, view: PlantView): number | undefined;
}

/** A tip is over a mark when it is no further from it than this, mm. */
const OVER_MM = 0.051;
/** A hand does not stay on what is hotter, and calls warm what is hotter than the second, °C. */
const HOT_C = 62;
const WARM_C = 40;
const USUAL_MARK_MM = 120;
/** A ruler is read so finely, mm. */
const RULER_MM = 0.1;

const rounded = (mm: number) => Math.round(mm / RULER_MM) * RULER_MM;

/** Somebody who remembers the marks that they made. */
export function sensesAt(): Senses {
  let mark: { x: number; y: number } | undefined;
  let filament: { atMm: number; fedMm: number } | undefined;

  function overMark({ position, probe }: PlantView): string | undefined {
    if (!mark || !probe) return undefined;
    const off = { x: position.x + probe.beside.x - mark.x, y: position.y + probe.beside.y - mark.y };
    if (Math.max(Math.abs(off.x), Math.abs(off.y)) <= OVER_MM) return 'on';
    if (Math.abs(off.x) >= Math.abs(off.y)) return off.x < 0 ? 'left' : 'right';
    return off.y < 0 ? 'front' : 'behind';
  }

  function see(
    { about, choices }: Question,
    view: PlantView,
    picture: Picture | undefined,
  ): string | undefined {
    const gap = view.underNozzleMm;
    if (about === 'shim')
      return gap === null || picture?.kind !== 'shim' ? undefined : feelOf(gap, picture.shimMm);
    if (about === 'mark') {
      mark = { x: view.position.x, y: view.position.y };
      return choices[0]?.id;
    }
    if (about === 'probe over mark') return overMark(view);
    if (about === 'strands') return gap === null ? undefined : strandsOf(gap, STRIP_LAYER_MM);
    const axis = /^motor warmth ([xyze]|e2)$/.exec(about)?.[1];
    if (axis === undefined) return undefined;
    // One of these motors, by the pattern above.
    const c = view.motorsC[axis as keyof typeof view.motorsC] ?? 0;
    return c > HOT_C ? 'hot' : c > WARM_C ? 'warm' : 'cool';
  }

  function read({ about }: Measure, { filamentMm: firstMm, secondFedMm }: PlantView): number | undefined {
    // Only one of two extruders feeds while it is looked at.
    const filamentMm = firstMm + secondFedMm;
    if (about === 'filament mark') {
      filament = { atMm: USUAL_MARK_MM, fedMm: filamentMm };
      return USUAL_MARK_MM;
    }
    if (about === 'filament left' && filament)
      return Math.max(0, rounded(filament.atMm - (filamentMm - filament.fedMm)));
    return undefined;
  }
  return { see, read };
}
