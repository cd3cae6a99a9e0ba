import {
  type Answer,
  ask,
  askAll,
  type Choice,
  choose,
  type Procedure,
  show,
  tell,
} from '../bringup/procedure';
import type { Facts } from '../machine/facts';
import { numberOf, type Settings, spanOf } from '../settings/setting';
import { onBoard } from './boardSetting';
import { type CalibrationTool, endedBy, type Found, found, round, signed } from './calibrationTool';
import { homeAll, lift, place, temperatures, warmUp } from './warmUp';

/** The nozzle makes its mark from so low, in mm. */
const MARK_MM = 2;
/** The probe is looked at with the nozzle so high at least, and its own tip; it comes over the mark so much higher, in mm. */
const LOOK_MM = { nozzle: 4, tip: 2 };
const OVER_MM = 6;
const STEPS_MM = [1, 0.1] as const;
const MM_MIN = 1800;

/** Where the tip stands against the mark, with the arrow that drives it back. */
const AGAINST: readonly Choice[] = [
  { id: 'left', label: 'Left of the mark', keys: ['ArrowRight'] },
  { id: 'right', label: 'Right of the mark', keys: ['ArrowLeft'] },
  { id: 'front', label: 'In front of it', keys: ['ArrowUp'] },
  { id: 'behind', label: 'Behind it', keys: ['ArrowDown'] },
  { id: 'on', label: 'On the mark', keys: ['Enter', ' '] },
];
const BACK: Readonly<Record<string, { axis: 'x' | 'y'; way: 1 | -1 }>> = {
  left: { axis: 'x', way: 1 },
  right: { axis: 'x', way: -1 },
  front: { axis: 'y', way: 1 },
  behind: { axis: 'y', way: -1 },
};
/** The file's offset and the one found differ by no more than this: it held. */
const HELD_MM = 0.3;

/** The place of the probe beside the nozzle, by bringing both over the same mark. */
export function placeTool(facts: Facts, settings: Settings): CalibrationTool {
  const tool: CalibrationTool = {
    id: 'probe-place',
    title: 'Probe offset, X and Y',
    what: 'Where the probe meets the plate, against the nozzle. The map, the home spot and the reach rest on it. Measure it after a job on the probe, its mount or the hot end. You drive the probe over the mark of the nozzle; the signs follow by themselves.',
    toHand: ['A strip of tape on the plate', 'A fine pen, or a needle through the cold nozzle', 'Light from the side'],
    caution: 'The head moves while you look close. Keep your face and fingers out of its way, and answer before you lean in.',
    choosing: temperatures(facts, settings).map((one) => ('unit' in one ? { ...one, value: 0, help: 'Leave it cold: you lean close.' } : one)),
    after: ['home', 'probe'],
    *run(chosen) {
      const warm = yield* warmUp(tool, chosen);
      if (warm) return endedBy(warm);
      const homed = yield* homeAll();
      if (homed) return endedBy(homed);
      const known = { x: numberOf(settings, 'probe.offset.x'), y: numberOf(settings, 'probe.offset.y') };
      const mark = markPlace(facts, settings, known);
      const marked = yield* makeMark(mark);
      if (marked) return endedBy(marked);
      const { 'probe.offset.z': tipMm } = yield* onBoard(facts.kit, settings, ['probe.offset.z']);
      const over = yield* driveOver(facts, { mark, known, lookMm: Math.max(LOOK_MM.nozzle, LOOK_MM.tip - tipMm) });
      yield* ask('M402');
      yield* lift();
      return 'ended' in over ? endedBy(over.ended) : judged(over, known);
    },
  };
  return tool;
} // prettier-ignore

interface Place {
  x: number;
  y: number;
}

/** The middle of the plate, or as near to it as both nozzle and probe reach. */
function markPlace(facts: Facts, settings: Settings, offset: Place): Place {
  const { bed_mm: bed } = facts.machine.frame;
  const of = (axis: 'x' | 'y') => {
    const [low, high] = spanOf(settings, `travel.${axis}`);
    const reached = [Math.max(low, low + offset[axis]), Math.min(high, high + offset[axis])] as const;
    const middle = (bed[axis][0] + bed[axis][1]) / 2;
    return round(Math.min(reached[1] - 5, Math.max(reached[0] + 5, middle)), 1);
  };
  return { x: of('x'), y: of('y') };
}

/** The nozzle above the mark, until it is made. The answer that ended it, if one did. */
function* makeMark({ x, y }: Place): Procedure<Answer | undefined> {
  const moved = yield* askAll(['G1 Z10 F600', `G1 X${x} Y${y} F${MM_MIN}`, `G1 Z${MARK_MM} F300`, 'M400']);
  if (moved) return moved;
  const made = yield* choose({
    text: 'Make a dot on the tape right below the tip of the nozzle.',
    about: 'mark',
    choices: [{ id: 'made', label: 'The dot is there', keys: ['Enter', ' '] }],
  });
  return 'ended' in made ? made.ended : undefined;
}

/** The probe brought over the mark, by what a person sees of it. */
function* driveOver(
  facts: Facts,
  { mark, known, lookMm }: { mark: Place; known: Place; lookMm: number },
): Procedure<Place | { ended: Answer }> {
  const { travel_mm: travel } = facts.machine.frame;
  const nozzle = { x: round(mark.x - known.x, 3), y: round(mark.y - known.y, 3) };
  yield* tell('The probe comes over the mark.');
  const out = yield* askAll([`G1 Z${lookMm + OVER_MM} F600`, 'M401', `G1 X${nozzle.x} Y${nozzle.y} F${MM_MIN}`, `G1 Z${lookMm} F300`, 'M400']); // prettier-ignore
  if (out) return { ended: out };
  for (const stepMm of STEPS_MM) {
    let turned = 0;
    let last: string | undefined;
    for (;;) {
      yield* show({ kind: 'marks', x: mark.x - nozzle.x, y: mark.y - nozzle.y, known: false });
      const seen = yield* choose({
        text: `Steps of ${stepMm} mm. Where is the tip of the probe, looked at from above?`,
        about: 'probe over mark',
        choices: AGAINST,
      });
      if ('ended' in seen) return seen;
      const back = BACK[seen.chosen];
      // Going to and fro, it is as near as these steps bring it.
      if (last !== undefined && back?.axis === BACK[last]?.axis && seen.chosen !== last) turned += 1;
      if (!back || (stepMm !== STEPS_MM.at(-1) && turned > 1)) break;
      last = seen.chosen;
      const to = nozzle[back.axis] + back.way * stepMm;
      const [low, high] = travel[back.axis];
      if (to < low || to > high)
        return {
          ended: {
            lines: [],
            problem: `error: the travel ends there; put the mark further from the edge in ${back.axis.toUpperCase()}`,
          },
        };
      nozzle[back.axis] = round(to, 3);
      const moved = yield* askAll([`G1 X${nozzle.x} Y${nozzle.y} F${MM_MIN}`, 'M400']);
      if (moved) return { ended: moved };
    }
  }
  const at = yield* place();
  return {
    x: round(mark.x - (at.x ?? nozzle.x), 2),
    y: round(mark.y - (at.y ?? nozzle.y), 2),
  };
}

const side = ({ x, y }: Place) =>
  `${Math.abs(x)} mm ${x < 0 ? 'left' : 'right'} of the nozzle, ${Math.abs(y)} mm ${y < 0 ? 'in front of' : 'behind'} it`;

function judged(offset: Place, known: Place): Found {
  const off = Math.hypot(offset.x - known.x, offset.y - known.y);
  return found(
    `The probe stands ${side(offset)}. ${off <= HELD_MM ? 'The file had it so within a third of a millimetre.' : `The file had it ${round(off, 2)} mm away from there.`}`,
    {
      evidence: [
        `X ${signed(offset.x, 2)} mm, Y ${signed(offset.y, 2)} mm; before X ${signed(known.x, 2)} mm, Y ${signed(known.y, 2)} mm`,
        'both were brought over one mark, by steps of 0.1 mm',
      ],
      figures: [
        { id: 'offset-x', label: 'Probe offset, X', value: offset.x, unit: 'mm' },
        { id: 'offset-y', label: 'Probe offset, Y', value: offset.y, unit: 'mm' },
      ],
      values: (['x', 'y'] as const).map((axis) => ({
        key: `probe.offset.${axis}`,
        value: offset[axis],
        because: 'measured: nozzle and probe over one mark',
      })),
      lines: [`offset x=${offset.x} y=${offset.y}`],
      picture: { kind: 'marks', ...offset, known: true },
    },
  );
}
