import { boardBy, partById, type Catalogue } from '@jolly/core/catalogue/catalogue';
import { type Answers, NONE } from '@jolly/core/describe/question';
import css from './Describe.module.css';

/** What stands in for a size nobody has told yet; drawn dotted. */
const UNSEEN_MM = 220;
const ROOM = { left: 46, top: 40, width: 236, height: 190 };

interface Plan {
  /** Millimetres of the machine to the drawing. */
  x: (mm: number) => number;
  y: (mm: number) => number;
  width: number;
  depth: number;
  past: { left: number; right: number; front: number; back: number };
}

const number = (answers: Answers, id: string): number | undefined => {
  const value = answers[id];
  return typeof value === 'number' ? value : undefined;
};

function planOf(answers: Answers): Plan {
  const [width, depth] = [
    number(answers, 'plate.width') ?? UNSEEN_MM,
    number(answers, 'plate.depth') ?? UNSEEN_MM,
  ];
  const edge = (id: string) => number(answers, `beyond.${id}`) ?? 0;
  const past = { left: edge('left'), right: edge('right'), front: edge('front'), back: edge('back') };
  const out = (mm: number) => Math.max(0, mm);
  const scale = Math.min(
    ROOM.width / (width + out(past.left) + out(past.right)),
    ROOM.height / (depth + out(past.front) + out(past.back)),
  );
  const [left, top] = [ROOM.left + out(past.left) * scale, ROOM.top + (depth + out(past.back)) * scale];
  return { x: (mm) => left + mm * scale, y: (mm) => top - mm * scale, width, depth, past };
}

/** The machine from above as far as it is described; what nobody has told yet is dotted or not there. */
export function GrowingDrawing({ answers, catalogue }: { answers: Answers; catalogue: Catalogue }) {
  const plan = planOf(answers);
  const [width, depth, height] = ['plate.width', 'plate.depth', 'height'].map((id) => number(answers, id));
  return (
    <figure className={css.growing}>
      <svg viewBox="0 0 330 262" role="img" aria-label="The machine from above, as far as it is described">
        <Travel plan={plan} answers={answers} />
        <rect
          className={css.bed}
          data-known={width !== undefined && depth !== undefined}
          x={plan.x(0)}
          y={plan.y(plan.depth)}
          width={plan.x(plan.width) - plan.x(0)}
          height={plan.y(0) - plan.y(plan.depth)}
          rx="4"
        />
        <text
          className={css.size}
          x={(plan.x(0) + plan.x(plan.width)) / 2}
          y={plan.y(0) - 6}
          textAnchor="middle"
        >
          {width ?? '?'} × {depth ?? '?'} mm
        </text>
        <Ends plan={plan} answers={answers} />
        <Drive axis="x" answers={answers} x={plan.x(plan.width / 2)} y={14} />
        <Drive axis="y" answers={answers} x={16} y={plan.y(plan.depth / 2)} lying />
        <Head plan={plan} answers={answers} />
        <text className={css.size} x="165" y="256" textAnchor="middle">
          Z {height ?? '?'} mm{driveInWords('z', answers) && `, ${driveInWords('z', answers)}`}
        </text>
      </svg>
      <figcaption>
        <Told answers={answers} catalogue={catalogue} />
      </figcaption>
    </figure>
  );
}

function Travel({ plan, answers }: { plan: Plan; answers: Answers }) {
  const known = ['left', 'right', 'front', 'back'].every(
    (edge) => number(answers, `beyond.${edge}`) !== undefined,
  );
  if (!known) return null;
  const { past, width, depth } = plan;
  return (
    <rect
      className={css.travel}
      x={plan.x(-past.left)}
      y={plan.y(depth + past.back)}
      width={plan.x(width + past.right) - plan.x(-past.left)}
      height={plan.y(-past.front) - plan.y(depth + past.back)}
    />
  );
}

/** A switch is a small wedge at the end it is met. */
function Ends({ plan, answers }: { plan: Plan; answers: Answers }) {
  const { past, width, depth } = plan;
  const [middleX, middleY] = [plan.x(width / 2), plan.y(depth / 2)];
  const places: Record<string, [number, number, number]> = {
    'x min': [plan.x(-past.left) - 5, middleY, 0],
    'x max': [plan.x(width + past.right) + 5, middleY, 180],
    'y min': [middleX, plan.y(-past.front) + 5, 270],
    'y max': [middleX, plan.y(depth + past.back) - 5, 90],
  };
  return ['x', 'y'].map((axis) => {
    const place = places[`${axis} ${String(answers[`end.${axis}`])}`];
    return (
      place && (
        <path
          key={axis}
          className={css.end}
          d="M-5 -6L5 0L-5 6Z"
          transform={`translate(${place[0]} ${place[1]}) rotate(${place[2]})`}
        />
      )
    );
  });
}

function driveInWords(axis: string, answers: Answers): string {
  const teeth = number(answers, `${axis}.teeth`);
  const lead = number(answers, `${axis}.lead`);
  if (answers[`${axis}.kind`] === 'belt') return teeth === undefined ? 'belt' : `belt, ${teeth} teeth`;
  if (answers[`${axis}.kind`] === 'screw') return lead === undefined ? 'screw' : `screw, ${lead} mm a turn`;
  return '';
}

function Drive({
  axis,
  answers,
  x,
  y,
  lying = false,
}: {
  axis: 'x' | 'y';
  answers: Answers;
  x: number;
  y: number;
  lying?: boolean;
}) {
  const words = driveInWords(axis, answers);
  if (words === '') return null;
  return (
    <g transform={`translate(${x} ${y})${lying ? ' rotate(-90)' : ''}`}>
      <path
        className={css.belt}
        d={
          answers[`${axis}.kind`] === 'belt'
            ? 'M-70 8H70M-70 14H70'
            : 'M-70 12l7 -4l7 8l7 -8l7 8l7 -8l7 8l7 -8l7 8l7 -8l7 8l7 -8l7 8l7 -8l7 8l7 -8l7 8l7 -8l7 8l7 -8l7 4'
        }
      />
      {answers[`${axis}.kind`] === 'belt' && <circle className={css.fixed} cx="-70" cy="11" r="6" />}
      <text className={css.size} y="0" textAnchor="middle">
        {axis.toUpperCase()}: {words}
      </text>
    </g>
  );
}

const HEAD_MM = 26;

/** The nozzle over the middle of the plate, with its probe where it hangs. */
function Head({ plan, answers }: { plan: Plan; answers: Answers }) {
  const [atX, atY] = [plan.width / 2, plan.depth / 2];
  const told = ['hotend.heater', 'hotend.sensor', 'e.roller'].some((id) => answers[id] != null);
  const [side, face] = [number(answers, 'mount.side_mm'), number(answers, 'mount.face_mm')];
  const probe = typeof answers['probe'] === 'string' && answers['probe'] !== NONE;
  if (!told && !probe) return null;
  const placed =
    side !== undefined &&
    face !== undefined &&
    answers['mount.side'] != null &&
    answers['mount.face'] != null;
  const probeX = atX + (answers['mount.side'] === 'left' ? -1 : 1) * (side ?? 0);
  const probeY = atY + (answers['mount.face'] === 'front' ? -1 : 1) * (face ?? 0);
  const half = (plan.x(HEAD_MM) - plan.x(0)) / 2;
  return (
    <>
      <rect
        className={css.nozzleBlock}
        x={plan.x(atX) - half}
        y={plan.y(atY) - half}
        width={2 * half}
        height={2 * half}
        rx="3"
      />
      <circle className={css.nozzle} cx={plan.x(atX)} cy={plan.y(atY)} r="3" />
      {probe && placed && (
        <>
          <path
            className={css.belt}
            d={`M${plan.x(atX)} ${plan.y(atY)}L${plan.x(probeX)} ${plan.y(probeY)}`}
          />
          <circle className={css.probe} cx={plan.x(probeX)} cy={plan.y(probeY)} r="5" />
        </>
      )}
    </>
  );
}

const LINES: readonly [string, readonly string[]][] = [
  ['Hot end', ['hotend.heater', 'hotend.sensor']],
  ['Bed', ['bed.heater', 'bed.sensor']],
  ['Probe', ['probe']],
  ['Drivers', ['driver']],
  ['Fans', ['fan.part', 'fan.hotend', 'fan.board']],
  ['Also', ['lamp', 'beeper', 'filament', 'display']],
];

/** What has no place in the drawing, in a line each. */
function Told({ answers, catalogue }: { answers: Answers; catalogue: Catalogue }) {
  const [id = '', revision = ''] = typeof answers['board'] === 'string' ? answers['board'].split(' ') : [];
  const board = boardBy(catalogue, { id, revision });
  const volts = number(answers, 'supply.volts');
  const named = LINES.flatMap(([title, ids]) => {
    const words = ids.flatMap((of) => {
      const value = answers[of];
      if (value === true) return [of];
      return typeof value === 'string' && value !== NONE ? [partById(catalogue, value)?.name ?? value] : [];
    });
    return words.length > 0 ? [{ title, words: words.join(', ') }] : [];
  });
  const all = [
    ...named,
    ...(board || volts !== undefined
      ? [
          {
            title: 'Board',
            words: [board && `${board.name} rev ${board.revision}`, volts !== undefined && `${volts} V`]
              .filter(Boolean)
              .join(', '),
          },
        ]
      : []),
  ];
  if (all.length === 0) return <p className="soft">It grows as you answer.</p>;
  return (
    <dl>
      {all.map(({ title, words }) => (
        <div key={title}>
          <dt>{title}</dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
  );
}
