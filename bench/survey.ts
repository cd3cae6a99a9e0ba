import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Board } from '@jolly/core/board/board';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Change } from '@jolly/core/ripple/change';
import type { Facts } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { identifyBoard, prepareBoards } from '@jolly/core/board/identifyBoard';
import { markText } from '@jolly/core/board/markText';
import { readYaml } from '@jolly/core/formats/readYaml';
import { ripple } from '@jolly/core/ripple/ripple';
import { type Job, jobSchema } from '@jolly/core/ripple/job';
import { type Figures, spread } from './figures';

const RUNS = 3000;
const WARM_UP = 1000;
const BOARDS = 500;
/** What somebody types, letter by letter, with misread letters in it. */
const TYPED = 'FENW1CK FB REV';

function measure(act: (run: number) => unknown): Figures {
  const took: number[] = [];
  for (let run = 0; run < RUNS + WARM_UP; run += 1) {
    const from = performance.now();
    act(run);
    if (run >= WARM_UP) took.push(performance.now() - from);
  }
  return spread(took);
}

/** The same changes, with the probe so far beside the nozzle. */
const withDistance = (changes: readonly Change[], side_mm: number): Change[] =>
  changes.map((change) =>
    change.kind === 'probe-added' ? { ...change, mount: { ...change.mount, side_mm } } : change,
  );

/** The ripple of three changes on Plover, against deriving the settings of the same machine once. */
export async function rippleBench(
  root: string,
  catalogue: Catalogue,
  factsOf: (machine: Machine) => Facts,
  say: (what: string, figure: string) => void,
): Promise<void> {
  const read = readYaml<Job>(
    await readFile(join(root, 'catalogue/demo/jobs/plover.yaml'), 'utf8'),
    jobSchema(),
  );
  if ('problems' in read) throw new Error(read.problems[0]!.message);
  const before = factsOf(read.value.before);
  const changes = read.value.changes.slice(0, 3);
  const once = measure(() => derive(before));
  const told = (what: string, tail: Figures) =>
    say(
      `ripple of three changes on Plover, ${what}: median, p95`,
      `${tail.words} (budget 2 ms); ${(tail.median / once.median).toFixed(1)} × one derivation of ${once.median.toFixed(2)} ms`,
    );
  told(
    'a machine never seen',
    measure(() => ripple({ ...before }, changes)),
  );
  // As typing a distance into the last of them does: each value is another one.
  told(
    'a key press in the last',
    measure((run) => ripple(before, withDistance(changes, 10 + run / 100))),
  );
}

/** One key press of identification over 500 boards, against making the text of those boards comparable once. */
export function identifyBench(catalogue: Catalogue, say: (what: string, figure: string) => void): void {
  const boards: Board[] = Array.from({ length: BOARDS }, (_, index) => {
    const like = catalogue.boards[index % catalogue.boards.length]!;
    return { ...like, id: `${like.id}-${index}`, print: [`${like.print.join(' ')} ${index}`] };
  });
  const once = measure(() => boards.map((board) => markText(board.print.join(''))));
  const prepared = prepareBoards(boards, catalogue.chips);
  const press = measure((run) =>
    identifyBoard({ print: TYPED.slice(0, 1 + (run % TYPED.length)), chip: 'K8' }, prepared),
  );
  say(
    `identification over ${BOARDS} boards, one key press: median, p95`,
    `${press.words} (budget 10 ms); ${(press.median / once.median).toFixed(1)} × reading their prints once`,
  );
}
