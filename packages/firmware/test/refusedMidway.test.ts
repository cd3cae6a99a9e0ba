import type { Answer, Procedure, Wanted } from '@jolly/core/bringup/procedure';
import { calibrationTools } from '@jolly/core/calibration/calibrationTools';
import { GAVE_UP } from '@jolly/core/proofs/proof';
import { proofsOf } from '@jolly/core/proofs/proofs';
import { derive } from '@jolly/core/settings/derive';
import { certain } from '@jolly/core/tree/certain';
import { beforeAll, describe, expect, it } from 'vitest';
import { type Built, builtDemo } from './fixtures/builtMachine';
import { compilerForTests } from '../../server/test/fixtures/compilerForTests';
import { personAt } from './fixtures/person';

type Heard = { wanted: Wanted; answer: Answer };
interface Asked {
  line: string;
  refused: boolean;
  stopped: boolean;
}
const NOTHING: Answer = { lines: [] };
const DONE: Answer = { lines: ['done'], atS: 0 };
const REFUSED: Answer = { lines: ['error: not now'], problem: 'error: not now' };
const STOPPED: Answer = { lines: ['stopped: lost power'], problem: 'stopped: lost power' };
const ASLEEP: Answer = { lines: ['error: asleep since the stop'], problem: 'error: asleep since the stop' };
/** It was done, and nothing is told of it. */
const MUTE: Answer = { lines: ['done'], atS: 0 };
const GONE: Answer = { lines: [], problem: GAVE_UP };
/** What is said when all that counts was seen, or asked where the answer only adds to it. */
const PUTS_BACK =
  /^(G90|M107|G1 Z10 F600|M400|M402|M104 S0|M140 S0|M30[14] .*|M92 .*|nudge z=.*|limits on|state|M503|M114)$/;
/** So many moments nothing comes of what somebody does, and they give up. */
const PATIENCE = 300;
/** More than any of them asks for where all is well. */
const NEVER_ENDS = 20_000;

/** The same procedure; what it wants and is answered is noted. */
function* noted<T>(procedure: Procedure<T>, heard: Heard[]): Procedure<T> {
  let step = procedure.next(NOTHING);
  while (!step.done) {
    const answer = yield step.value;
    heard.push({ wanted: step.value, answer });
    step = procedure.next(answer);
  }
  return step.value;
}

/** What only asks is answered after a stop, too. */
const ASKS = /^(M105|M114|M115|M119|M503)$/;
/** What is asked for what it tells. */
const tells = (line: string): boolean => ASKS.test(line) || line === 'state';
/** What a board says to a line when it refused one before, or stopped: as it was said, but for how it stands. */
function saidLater(line: string, said: Answer, told: Answer): Answer {
  if (line === 'state')
    return {
      lines: [told === STOPPED ? 'state doing=stopped why="lost power"' : 'state doing=idle', 'done'],
    };
  if (told !== STOPPED) return said;
  if (!ASKS.test(line)) return ASLEEP;
  return {
    lines: said.lines.map((one) =>
      one.replace(/ target=\S+ duty=\S+/, ' target=0.0 duty=0.00').replace(/ homed=\S+/, ' homed=---'),
    ),
  };
}

/** Carries a procedure out as it was heard up to a moment; there it is told something else, and goes on with what was last said to each line. */
function otherwise<T>(procedure: Procedure<T>, heard: readonly Heard[], at: number, told: Answer) {
  const asked: Asked[] = [];
  const last = new Map<string, Answer>();
  for (const { wanted, answer } of heard.slice(0, at)) if ('ask' in wanted) last.set(wanted.ask, answer);
  // What had not been asked by then: as it was said first.
  for (const { wanted, answer } of heard.slice(at))
    if ('ask' in wanted && !last.has(wanted.ask)) last.set(wanted.ask, answer);
  let nowS = Math.max(0, ...heard.slice(0, at).map(({ answer }) => answer.atS ?? 0));
  let moments = 0;
  const after = (wanted: Wanted): Answer => {
    if ('wait' in wanted && (moments += 1) > PATIENCE) return GONE;
    if (told === GONE && !('ask' in wanted)) return 'tell' in wanted || 'show' in wanted ? NOTHING : GONE;
    // The machine's clock goes on.
    if ('ask' in wanted)
      return { ...saidLater(wanted.ask, last.get(wanted.ask) ?? DONE, told), atS: (nowS += 1) };
    return 'question' in wanted ? { lines: [wanted.question.choices[0]?.id ?? ''] } : 'measure' in wanted ? { lines: ['1'] } : NOTHING; // prettier-ignore
  };
  let step = procedure.next(NOTHING);
  for (let nth = 0; !step.done; nth += 1) {
    if (nth > NEVER_ENDS) throw new Error(`it never ends when ${JSON.stringify(told)} is answer ${at}`);
    const wanted = step.value;
    const answer = nth < at ? (heard[nth]?.answer ?? DONE) : nth === at ? told : after(wanted);
    if ('ask' in wanted)
      asked.push({
        line: wanted.ask,
        refused: answer.problem !== undefined,
        stopped: [answer.problem ?? '', ...answer.lines].some((said) =>
          /^stopped: |doing=stopped/.test(said),
        ),
      });
    step = procedure.next(answer);
  }
  return { result: step.value, asked };
}

/** What a run leaves behind, by the lines that were taken: heat, relative moves. A line that takes heat away need only have been sent. */
function leftBehind(asked: readonly Asked[]): string[] {
  const left = new Set<string>();
  for (const { line, refused, stopped } of asked) {
    if (line === 'M112' || stopped) left.clear();
    const heat = /^M(?:104|109|140|190|141|191)\b/.exec(line);
    if (heat) {
      const body = `M${{ 104: 'hot', 109: 'hot', 140: 'bed', 190: 'bed', 141: 'air', 191: 'air' }[Number(heat[0].slice(1))]} ${/T\d/.exec(line)?.[0] ?? ''}`;
      if (/S0\b/.test(line)) left.delete(body);
      else if (!refused) left.add(body);
    }
    if (line === 'G91' && !refused) left.add('relative');
    if (line === 'G90') left.delete('relative');
  }
  return [...left];
}

/** Where each line, question and wait comes the first two times and the last: a poll that goes on for minutes is the same in between. */
function places(heard: readonly Heard[]): number[] {
  const by = new Map<string, number[]>();
  heard.forEach(({ wanted }, at) => {
    const what = JSON.stringify(wanted);
    by.set(what, [...(by.get(what) ?? []), at]);
  });
  const kept = new Set([...by.values()].flatMap((all) => [...all.slice(0, 2), ...all.slice(-1)]));
  return heard.flatMap(({ wanted }, at) =>
    kept.has(at) && !('tell' in wanted || 'show' in wanted) ? [at] : [],
  );
}

/** Answers of a procedure, each made into those that would end it; what came of it is told where it is not as it should be. */
function eachOtherwise<T>(
  run: () => Procedure<T>,
  heard: readonly Heard[],
  judge: (result: T, left: string[], line: string) => string[],
): string[] {
  return places(heard).flatMap((at) => {
    const wanted = certain(heard[at], 'what was heard').wanted;
    const line = 'ask' in wanted ? wanted.ask : '';
    const kinds = 'ask' in wanted ? [REFUSED, STOPPED, ...(tells(line) ? [MUTE] : [])] : [GONE];
    return kinds.flatMap((told) => {
      const { result, asked } = otherwise(run(), heard, at, told);
      // The stop takes all heat away, and what sleeps moves nowhere.
      const wrong = judge(result, told === STOPPED ? [] : leftBehind(asked), line);
      return wrong.map(
        (what) => `answer ${at} of ${heard.length}, ${line}: ${told.problem ?? 'nothing told'}: ${what}`,
      );
    });
  });
}

const built: Record<string, Built> = {};
beforeAll(async () => {
  for (const id of ['plover', 'dunlin', 'bittern']) built[id] = await builtDemo(id, [], compilerForTests());
});
const machine = (id: string) => certain(built[id], id);

describe('whatever is refused, stopped or given up on the way', () => {
  it.each(['plover', 'dunlin', 'bittern'])('no step of bring-up of %s is proven, and none leaves heat or relative moves', async (id) => {
    const { facts, image, header } = machine(id);
    const person = await personAt(facts, image, []);
    const wrong: string[] = [];
    for (const proof of proofsOf(facts)) {
      const heard: Heard[] = [];
      const { outcome } = await person.prove({ ...proof, run: (of) => noted(proof.run(of), heard) }, header);
      expect([proof.id, outcome]).toEqual([proof.id, 'proven']);
      if (proof.guards) await person.ask('wake');
      const told = eachOtherwise(() => proof.run(header), heard, ({ outcome: came }, left, line) => [...(came === 'proven' && !PUTS_BACK.test(line) ? [came] : []), ...left]);
      wrong.push(...told.map((words) => `${proof.id}: ${words}`));
    }
    expect(wrong).toEqual([]);
  }); // prettier-ignore

  it('no tool of Calibrate finds anything, but where it only puts back what it had', async () => {
    const { facts, image } = machine('plover');
    const person = await personAt(facts, image, []);
    const wrong: string[] = [];
    for (const tool of calibrationTools(facts, derive(facts))) {
      const heard: Heard[] = [];
      await person.measure({ ...tool, run: (chosen) => noted(tool.run(chosen), heard) });
      const told = eachOtherwise(
        () => tool.run({}),
        heard,
        ({ outcome }, left, line) => [
          ...(outcome === 'found' && !PUTS_BACK.test(line) ? [outcome] : []),
          // What it has warmed stays warm, and is told.
          ...left.filter((what) => what === 'relative'),
        ],
      );
      wrong.push(...told.map((words) => `${tool.id}: ${words}`));
    }
    expect(wrong).toEqual([]);
  });
});
