import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { LINE_MM, strokes } from './strokes';
import { writeEndCode, writeStartCode } from './writeStartCode';

/** What the tray is printed with, in mm. */
const LAYER_MM = 0.2;
const SIDE_MM = 40;
const WALL_LOOPS = 2;
const FLOOR_LAYERS = 4;
const PRINT_MM_MIN = 2400;

const round = (value: number, digits: number) => Number(value.toFixed(digits));

/**
 * A small open tray in the middle of the plate, as G-code: floor, walls, and the machine's own start and end code. It is
 * made to try a machine with; about 70 lines a layer of floor, 12 of wall.
 *
 * @param layers how many layers of 0.2 mm; 1 to 400
 */
export function testPrint(facts: Facts, settings: Settings, layers = 120): string {
  const { bed_mm: bed } = facts.machine.frame;
  const middle = { x: (bed.x[0] + bed.x[1]) / 2, y: (bed.y[0] + bed.y[1]) / 2 };
  const { travel, draw: drawAt, say, lines } = strokes(LAYER_MM);
  const draw = (x: number, y: number) => drawAt(x, y, PRINT_MM_MIN);
  const loop = (half: number) => {
    travel(middle.x - half, middle.y - half);
    draw(middle.x + half, middle.y - half);
    draw(middle.x + half, middle.y + half);
    draw(middle.x - half, middle.y + half);
    draw(middle.x - half, middle.y - half);
  };
  const floor = (half: number, across: boolean) => {
    for (let nth = 0, way = -half; way <= half; nth += 1, way += LINE_MM) {
      const [from, to] = nth % 2 === 0 ? [-half, half] : [half, -half];
      const end = (along: number): [number, number] =>
        across ? [middle.x + along, middle.y + way] : [middle.x + way, middle.y + along];
      travel(...end(from));
      draw(...end(to));
    }
  };
  for (let layer = 0; layer < Math.min(400, Math.max(1, Math.round(layers))); layer += 1) {
    say(`; layer ${layer + 1}`);
    say(`G1 Z${round((layer + 1) * LAYER_MM, 3)} F600`);
    for (let nth = 0; nth < WALL_LOOPS; nth += 1) loop(SIDE_MM / 2 - nth * LINE_MM);
    if (layer < FLOOR_LAYERS) floor(SIDE_MM / 2 - WALL_LOOPS * LINE_MM, layer % 2 === 0);
  }
  return [writeStartCode(facts, settings), 'G90', 'M82', 'G92 E0', ...lines(), writeEndCode(facts, settings)].join('\n'); // prettier-ignore
}
