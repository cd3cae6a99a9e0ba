import { type Answer, ask, type Choice, choose, type Procedure, show } from '../bringup/procedure';
import { round } from './calibrationTool';
import { place } from './warmUp';

/** Heights by a shim are told apart from here, mm. */
export const FINEST_MM = 0.025;
/** Steps down, each until the shim is no longer free; the last until it drags. mm */
const STEPS_MM = [1, 0.1, 0.05, FINEST_MM] as const;
/** The largest step is taken only so far above where the plate is expected, mm. */
const NEAR_MM = 1.5;
/** The plate is looked for down to here, mm: as far as a lifted limit lets Z go. */
const LOWEST_MM = -2.9;
const MM_MIN = 180;

/** What a shim does, with the keys for hands that are busy: minus goes on down, plus up, enter is what is looked for. */
const FELT: readonly Choice[] = [
  { id: 'free', label: 'It slides free', keys: ['-', 'ArrowDown', ' '] },
  { id: 'drags', label: 'It drags', keys: ['Enter'] },
  { id: 'holds', label: 'It is held', keys: ['+', 'ArrowUp'] },
];

type Descended = { z: number } | { ended: Answer };

/** What a shim is felt on: its thickness, and the height at which the board shows the nozzle on the plate, as far as is known, mm. */
export interface Onto {
  shimMm: number;
  expectedMm: number;
  /** Heights of earlier runs, to be drawn beside. */
  runs: readonly number[];
}

/**
 * Lowers the nozzle from where it stands onto a shim, in steps that shrink as it nears, asking after each how the shim
 * feels. Ends with the height that the board shows where it drags. A place counts as free only where it was felt to be.
 */
export function* descend({ shimMm, expectedMm, runs }: Onto): Procedure<Descended> {
  const start = (yield* place()).z;
  if (start === undefined) return { ended: { lines: [], problem: 'error: Z is not homed' } };
  const nearMm = expectedMm + shimMm + NEAR_MM;
  let z = start;
  let free = Infinity;
  const goTo = function* (to: number): Procedure<Answer> {
    z = round(to, 4);
    const moved = yield* ask(`G1 Z${z} F${MM_MIN}`);
    return moved.problem === undefined ? yield* ask('M400') : moved;
  };
  for (const stepMm of STEPS_MM) {
    const last = stepMm === STEPS_MM.at(-1);
    while (stepMm !== STEPS_MM[0] || z - stepMm >= nearMm) {
      const felt = yield* feelShim({ z, stepMm, shimMm, runs });
      if ('ended' in felt) return felt;
      if (last && felt.chosen === 'drags') return { z };
      const isFree = felt.chosen === 'free';
      if (isFree) free = z;
      const known = z + stepMm >= free - 1e-9;
      // Between a free place and one that holds nothing finer can be told.
      if (last && !isFree && known) return { z: round((z + free) / 2, 4) };
      const problem = isFree ? z - stepMm < LOWEST_MM && `nothing was met down to ${LOWEST_MM} mm` : z >= start && `the shim is not free ${start} mm up; is it the plate that you feel?`; // prettier-ignore
      if (problem) return { ended: { lines: [], problem: `error: ${problem}` } };
      const moved = yield* goTo(isFree ? z - stepMm : Math.min(start, z + stepMm));
      if (moved.problem !== undefined) return { ended: moved };
      if (!isFree && known) break;
    }
  }
  return { z };
}

function* feelShim(at: { z: number; stepMm: number; shimMm: number; runs: readonly number[] }) {
  const { z, stepMm, shimMm, runs } = at;
  yield* show({ kind: 'shim', shownZ: z, stepMm, shimMm, runs });
  return yield* choose({
    text: `Z ${z.toFixed(3)} mm, next step ${stepMm} mm. Slide the shim: what does it do?`,
    about: 'shim',
    choices: FELT,
  });
}
