/** What plain strokes are printed with, in mm and mm/min. */
export const LINE_MM = 0.45;
const FILAMENT_MM = 1.75;
const TRAVEL_MM_MIN = 6000;

export interface Strokes {
  /** Goes somewhere without printing. */
  travel(x: number, y: number): void;
  /** Prints a straight line to there. */
  draw(x: number, y: number, mmPerMin: number): void;
  /** Any other line. */
  say(line: string): void;
  lines(): string[];
}

const round = (value: number, digits: number) => Number(value.toFixed(digits));

/** Straight strokes of a layer as G-code, absolute, filament counted on from 0. @param layerMm how high the layer is, mm */
export function strokes(layerMm: number): Strokes {
  /** mm of filament for each mm of line. */
  const perMm = (LINE_MM * layerMm) / (Math.PI * (FILAMENT_MM / 2) ** 2);
  const lines: string[] = [];
  let at = { x: 0, y: 0 };
  let e = 0;
  return {
    travel(x, y) {
      at = { x, y };
      lines.push(`G1 X${round(x, 3)} Y${round(y, 3)} F${TRAVEL_MM_MIN}`);
    },
    draw(x, y, mmPerMin) {
      e += Math.hypot(x - at.x, y - at.y) * perMm;
      at = { x, y };
      lines.push(`G1 X${round(x, 3)} Y${round(y, 3)} E${round(e, 5)} F${mmPerMin}`);
    },
    say: (line) => void lines.push(line),
    lines: () => [...lines],
  };
}
