import { type Answer, ask, type Choice, choose, type Procedure, show } from '../bringup/procedure';
import { round } from './calibrationTool';
import { place } from './warmUp';

/** Steps down, each until the shim is no longer free; the last until it drags. mm */
const STEPS_MM = [1, 0.1, 0.05, 0.025] as const;
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

/**
 * Lowers the nozzle from where it stands onto a shim, in steps that shrink as it nears, asking after each how the shim
 * feels. Ends with the height that the board shows where it drags.
 * @param runs heights of earlier runs, to be drawn beside
 */
export function* descend(shimMm: number, runs: readonly number[]): Procedure<Descended> {
  const start = (yield* place()).z;
  if (start === undefined) return { ended: { lines: [], problem: 'error: Z is not homed' } };
  let z = start;
  let free = z;
  const goTo = function* (to: number): Procedure<Answer> {
    z = round(to, 4);
    const moved = yield* ask(`G1 Z${z} F${MM_MIN}`);
    return moved.problem === undefined ? yield* ask('M400') : moved;
  };
  for (const stepMm of STEPS_MM) {
    const last = stepMm === STEPS_MM.at(-1);
    for (;;) {
      if (stepMm === STEPS_MM[0] && z - stepMm < shimMm + NEAR_MM) break;
      const felt = yield* feelShim({ z, stepMm, shimMm, runs });
      if ('ended' in felt) return felt;
      if (last && felt.chosen === 'drags') return { z };
      if (felt.chosen === 'free') {
        free = z;
        if (z - stepMm < LOWEST_MM)
          return { ended: { lines: [], problem: `error: nothing was met down to ${LOWEST_MM} mm` } };
        const moved = yield* goTo(z - stepMm);
        if (moved.problem !== undefined) return { ended: moved };
        continue;
      }
      // Between a free place and one that holds nothing finer can be told.
      if (last) return { z: round((z + free) / 2, 4) };
      const moved = yield* goTo(Math.min(start, z + stepMm));
      if (moved.problem !== undefined) return { ended: moved };
      free = z;
      break;
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
