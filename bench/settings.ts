import type { Facts } from '@jolly/core/machine/facts';
import type { Kit } from '@jolly/core/kit/kit';
import type { Machine } from '@jolly/core/machine/machine';
import { applyEdits, overrideEdit } from '@jolly/core/machine/edit';
import { check } from '@jolly/core/checks/checks';
import { derive } from '@jolly/core/settings/derive';
import { find, settingIndex } from '@jolly/core/find/find';
import { likelyDrives } from '@jolly/core/motion/likelyDrives';
import { parseDump } from '@jolly/core/report/parseDump';
import { readMachineFile, writeMachineFile } from '@jolly/core/formats/machineFile';
import { write } from '@jolly/core/build/write';
import { type Figures, spread } from './figures';

const RUNS = 1500;
const WARM_UP = 500;
const LINES = 10_000;

function measure(runs: number, act: (run: number) => unknown): Figures {
  const took: number[] = [];
  for (let run = 0; run < runs + Math.min(runs, WARM_UP); run += 1) {
    const from = performance.now();
    act(run);
    if (run >= Math.min(runs, WARM_UP)) took.push(performance.now() - from);
  }
  return spread(took);
}

/** A machine file of so many lines: remarks, as a careful owner leaves them, between the lines of a real one. */
function longFile(machine: Machine): string {
  const lines = writeMachineFile(machine).split('\n');
  // Short, so that the whole stays below what is read at all.
  const remark = '# measured on the bench';
  while (lines.length < LINES) lines.push(remark);
  return lines.join('\n');
}

const longDump = (): string =>
  Array.from({ length: LINES }, (_, line) =>
    line % 2 === 0
      ? `M92 X${80 + (line % 7)} Y80 Z400 E${300 + (line % 90)}`
      : `; line ${line} of a long report`,
  ).join('\n');

/** Which trains steps/mm may be of, over all that is sold, against deriving once. */
function trainsBench(alone: Figures, say: (what: string, figure: string) => void): void {
  const axes = ['x', 'y', 'z', 'e'] as const;
  const trains = measure(RUNS, (run) =>
    likelyDrives({ axis: axes[run % axes.length] ?? 'x', stepsPerMm: 60 + (run % 900) }),
  );
  say(
    'likely drives of a steps/mm (median, p95; budget 5 ms)',
    `${trains.words}, ${(trains.p95 / alone.p95).toFixed(1)}× deriving`,
  );
}

/** Settings and every check on an edited machine, files of 10 000 lines, and the finder, against deriving once. */
export function settingsBench(
  plover: Machine,
  kit: Kit,
  factsOf: (machine: Machine) => Facts,
  say: (what: string, figure: string) => void,
): void {
  const edited = (run: number) => applyEdits(plover, [overrideEdit('speed.x', 100 + (run % 90), 'bench')]);
  const facts = factsOf(plover);
  const alone = measure(RUNS, () => derive(facts));
  say('deriving all settings (median, p95)', alone.words);
  trainsBench(alone, say);
  const settings = derive(facts);
  const checks = measure(RUNS, () => check(facts, settings));
  say(
    'all checks on the machine (median, p95; budget 4 ms)',
    `${checks.words}, ${(checks.p95 / alone.p95).toFixed(1)}× deriving`,
  );
  const whole = measure(RUNS, (run) => {
    const now = factsOf(edited(run));
    const derived = derive(now);
    return [check(now, derived), write(now, derived)];
  });
  say(
    'an edit: looked up, derived, checked, files written',
    `${whole.words}, ${(whole.p95 / alone.p95).toFixed(1)}× deriving`,
  );
  const index = settingIndex(kit);
  const questions = ['runs bakwards', 'steps/mm', 'thermal runaway', 'x', 'does not stik', 'endstp invert'];
  say(
    'the finder, one key press',
    measure(RUNS, (run) => find(index, questions[run % questions.length]!)).words,
  );
  const file = longFile(plover);
  const read = readMachineFile(file);
  if ('problems' in read) throw new Error(`the long machine file is refused: ${read.problems[0].message}`);
  say('a machine file of 10 000 lines, read', measure(12, () => readMachineFile(file)).words);
  const dump = longDump();
  say('a settings report of 10 000 lines, read', measure(12, () => parseDump({ text: dump })).words);
}
