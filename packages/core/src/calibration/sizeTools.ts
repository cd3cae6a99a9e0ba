import { type Choice, choose, measure } from '../bringup/procedure';
import { type Facts, partsOf } from '../machine/facts';
import { type Axis, AXES } from '../machine/machine';
import { cubeVerdict } from '../motion/cubeVerdict';
import { type CalibrationTool, endedBy, type Found, found, round, signed } from './calibrationTool';

/** Margins that differ by no more than this are even: a ruler tells no less, mm. */
const EVEN_MM = 1;

const EDGES = [
  { id: 'left', text: 'Print something square in the middle of the plate. From its left side to the left edge of the plate:' },
  { id: 'right', text: 'From its right side to the right edge:' },
  { id: 'front', text: 'From its front to the front edge:' },
  { id: 'back', text: 'From its back to the back edge:' },
] as const; // prettier-ignore
const BLAME: readonly Choice[] = [
  { id: 'there', label: 'It stands at the corner of the plate', keys: ['Enter', ' '] },
  { id: 'off', label: 'It stands as far off as the print', keys: ['+'] },
];

/** A print off the centre: from four margins, and a look at the corner, whether origin or slicer is to blame. */
export function centreTool(facts: Facts): CalibrationTool {
  return {
    id: 'centre',
    title: 'Print off centre',
    what: 'When prints lie nearer to one edge of the plate than the slicer shows. Four margins say how far; a look at the corner says whether the machine’s origin is wrong or the slicer’s plate.',
    toHand: ['A print that the slicer had in the middle', 'A ruler'],
    choosing: [],
    after: ['home'],
    *run() {
      const margins = new Map<string, number>();
      for (const { id, text } of EDGES) {
        const read = yield* measure({ text, label: `Margin ${id === 'front' ? 'in front' : id === 'back' ? 'behind' : id}`, unit: 'mm', range: [0, 2000], about: `margin ${id}` });
        if ('ended' in read) return endedBy(read.ended);
        margins.set(id, read.read);
      }
      const of = (id: string) => margins.get(id) ?? 0;
      const off = { x: (of('left') - of('right')) / 2, y: (of('front') - of('back')) / 2 };
      if (Math.abs(off.x) <= EVEN_MM && Math.abs(off.y) <= EVEN_MM)
        return centred(off, 'It lies in the middle within a millimetre. Leave it.');
      const { x, y } = facts.machine.frame.bed_mm;
      const seen = yield* choose({ text: `Home, lift Z, and send the nozzle to X ${x[0]} Y ${y[0]}: the front left corner, as the file has it. Where does it stand?`, about: 'corner', choices: BLAME });
      if ('ended' in seen) return endedBy(seen.ended);
      return seen.chosen === 'there' ? centred(off, 'The machine knows its plate. The slicer has it elsewhere, or of another size: set its bed to the volume shown at Settings.') : shifted(facts, off);
    },
  };
} // prettier-ignore

const centreFigures = (off: { x: number; y: number }) =>
  (['x', 'y'] as const).map((axis) => ({ id: `centre-${axis}`, label: `Off centre, ${axis.toUpperCase()}`, value: round(off[axis], 1), unit: 'mm' })); // prettier-ignore

const centred = (off: { x: number; y: number }, words: string): Found =>
  found(words, { evidence: [`off by X ${signed(off.x, 1)}, Y ${signed(off.y, 1)} mm`], figures: centreFigures(off) }); // prettier-ignore

/** The plate lies elsewhere than the file says: what is printed at its middle lies off it by as much. */
function shifted(facts: Facts, off: { x: number; y: number }): Found {
  const { x, y } = facts.machine.frame.bed_mm;
  const moved = (span: readonly [number, number], by: number): [number, number] => [
    round(span[0] - by, 1),
    round(span[1] - by, 1),
  ];
  const [toX, toY] = [moved(x, off.x), moved(y, off.y)];
  return found(
    `The plate lies ${signed(-off.x, 1)} mm in X and ${signed(-off.y, 1)} mm in Y from where the file has it: X ${toX.join(' to ')}, Y ${toY.join(' to ')} mm. Its switches, or the plate, were moved. Build and flash for it to count.`,
    {
      evidence: [`off by X ${signed(off.x, 1)}, Y ${signed(off.y, 1)} mm; the corner is off as well`],
      figures: centreFigures(off),
      edits: [
        { path: ['frame', 'bed_mm', 'x'], value: toX },
        { path: ['frame', 'bed_mm', 'y'], value: toY },
      ],
    },
  );
}

/** The cube, last: which error is the machine's and which the plastic's. */
export function cubeTool(facts: Facts): CalibrationTool {
  return {
    id: 'cube',
    title: 'Cube, last of all',
    what: 'A printed cube says which error is the machine’s and which the plastic’s. Measure two sizes of one axis: a line through them parts the width of a line from what the plastic shrinks. Steps are never set by it.',
    toHand: ['Two cubes, or one with two sizes, cold', 'Callipers'],
    choosing: [
      {
        key: 'axis',
        label: 'Axis',
        value: 'x',
        choices: AXES.map((axis) => ({ id: axis, label: axis.toUpperCase() })),
      },
      { key: 'small', label: 'The small one should be', unit: 'mm', range: [2, 300], value: 20 },
      { key: 'large', label: 'The large one should be', unit: 'mm', range: [2, 600], value: 100 },
    ],
    after: [],
    *run(chosen) {
      // One of the choices.
      const axis = String(chosen['axis'] ?? 'x') as Axis;
      const sizes: { nominalMm: number; measuredMm: number }[] = [];
      for (const [key, usual] of [['small', 20], ['large', 100]] as const) {
        const nominalMm = Number(chosen[key] ?? usual);
        const read = yield* measure({ text: `Measure the one that should be ${nominalMm} mm along ${axis.toUpperCase()}.`, label: 'It measures', unit: 'mm', range: [nominalMm * 0.8, nominalMm * 1.2], near: nominalMm, about: 'cube' });
        if ('ended' in read) return endedBy(read.ended);
        sizes.push({ nominalMm, measuredMm: read.read });
      }
      const { kind } = facts.machine.axes[axis];
      const { offsetMm, scalePct, verdict, because } = cubeVerdict({ axis, drive: kind, sizes });
      return found(`${verdict[0]?.toUpperCase()}${verdict.slice(1)}: ${because}`, {
        evidence: sizes.map(({ nominalMm, measuredMm }) => `${nominalMm} mm measures ${measuredMm} mm`),
        figures: [
          { id: `cube-${axis}-offset`, label: `Cube ${axis.toUpperCase()}: constant`, value: round(offsetMm, 3), unit: 'mm' },
          { id: `cube-${axis}-scale`, label: `Cube ${axis.toUpperCase()}: proportion`, value: round(scalePct, 3), unit: '%' },
        ],
      });
    },
  };
} // prettier-ignore

const LOOKS: readonly { id: string; text: string; wrong: string; mend: string }[] = [
  { id: 'upright', text: 'Does the probe stand the right way up, straight down, its label where its leaflet shows it?', wrong: 'It hangs crooked or upside down', mend: 'Loosen it, set it straight by a square on the plate, tighten it.' },
  { id: 'free', text: 'Move the head by hand over the whole plate, motors off. Is nothing in the way of the probe: belt, clip, cable?', wrong: 'Something is in its way', mend: 'Move the clip, tie the cable, or turn the mount.' },
  { id: 'rigid', text: 'Push the probe sideways with a finger. Does it stay where it is, or spring back to it?', wrong: 'It gives, and stays where it was pushed', mend: 'Tighten its mount, or print a stiffer one: a mount that wanders takes the offset with it.' },
]; // prettier-ignore
/** The nozzle must come down so much before the probe at rest, mm. */
const CLEAR_MM = 0.5;
/** What is said of the tip of a probe at rest: one with a pin draws it in, another has nothing to draw in. */
const AT_REST = {
  pin: { ask: 'The probe drawn in: how far is its tip above the plate, by gauge?', low: 'Drawn in, its tip stands', clear: 'the drawn-in probe', figure: 'Tip drawn in, above the nozzle' },
  fixed: { ask: 'How far is the tip of the probe above the plate, by gauge?', low: 'Its tip stands', clear: 'the probe', figure: 'Tip of the probe, above the nozzle' },
} as const; // prettier-ignore

/** The mount of the probe, looked at before anything is measured with it. */
export function mountTool(facts: Facts): CalibrationTool[] {
  const probe = partsOf(facts, 'probe')[0];
  if (!probe) return [];
  return [
    {
      id: 'probe-mount',
      title: 'Mount of the probe',
      what: 'Before anything is measured with it: does it stand where it can do no harm and cannot wander? After every job on probe, mount or hot end.',
      toHand: ['Gauges, or a stack of cards measured with callipers', 'A good light'],
      caution: 'The head is moved by hand: motors off, everything cold.',
      choosing: [],
      after: [],
      *run() {
        const wrong: (typeof LOOKS)[number][] = [];
        for (const look of LOOKS) {
          const seen = yield* choose({ text: look.text, about: `mount ${look.id}`, choices: [{ id: 'yes', label: 'Yes', keys: ['Enter', ' '] }, { id: 'no', label: look.wrong, keys: ['-'] }] });
          if ('ended' in seen) return endedBy(seen.ended);
          if (seen.chosen === 'no') wrong.push(look);
        }
        if (probe.type.sense === 'nozzle') return mounted(wrong);
        const tip = probe.type.sense === 'pin' ? 'pin' : 'fixed';
        const gap = yield* measure({ text: `Lower the nozzle by hand onto a card. ${AT_REST[tip].ask}`, label: 'Tip to plate', unit: 'mm', range: [0, 30], near: 2, about: 'stowed gap' });
        if ('ended' in gap) return endedBy(gap.ended);
        return mounted(wrong, { gapMm: gap.read, tip });
      },
    },
  ];
} // prettier-ignore

function mounted(
  wrong: readonly (typeof LOOKS)[number][],
  at?: { gapMm: number; tip: keyof typeof AT_REST },
): Found {
  const said = at && { ...AT_REST[at.tip], ...at };
  const causes = [
    ...wrong.map(({ wrong: cause, mend: look }) => ({ cause, look })),
    ...(said && said.gapMm < CLEAR_MM ? [{ cause: `${said.low} only ${said.gapMm} mm above the plate: it drags over prints`, look: `Mount it higher: ${CLEAR_MM} mm at least.` }] : []),
  ];
  const keeps = said && {
    figures: [{ id: 'stowed', label: said.figure, value: said.gapMm, unit: 'mm' }],
    edits: [{ path: ['probe_mount', 'stowed_mm'], value: said.gapMm }],
    picture: { kind: 'mount', restMm: said.gapMm, leastMm: CLEAR_MM, drawnIn: said.tip === 'pin' } as const,
  };
  const evidence = [...LOOKS.map((look) => `${look.id}: ${wrong.includes(look) ? 'no' : 'yes'}`), ...(said ? [`tip ${said.gapMm} mm above the plate while the nozzle is on it`] : [])];
  return causes.length === 0
    ? found(said ? `It stands well: the nozzle meets the plate ${said.gapMm} mm before ${said.clear} would.` : 'It stands well.', { evidence, ...keeps })
    : found('It does not stand as it must. Mend the mount before you measure with it.', { evidence, causes, ...keeps }, 'poor');
} // prettier-ignore
