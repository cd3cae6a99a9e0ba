import type { Board } from '../board/board';
import { findHarness, type Unmeetable } from '../harness/findHarness';
import { caseOf } from '../harness/wiringCase';
import { type Facts, resolve } from '../machine/facts';
import type { Change } from './change';
import type { Contradiction } from './contradictions';
import { ripple } from './ripple';
import { type SwapPlan, swapPlan } from './swapPlan';

/** A swap to another board as it would be. */
export interface BoardSwap {
  change: Change;
  plan: SwapPlan;
  after: Facts;
  /** What speaks against it, or is to be told first. */
  contradictions: readonly Contradiction[];
  /** Parts that could not all be connected there. */
  unmeetable: Unmeetable[];
}

/** What going over to a board would ask, without a job; undefined where the machine cannot be read with it. */
export function swapTo(
  before: Facts,
  { id, revision }: Pick<Board, 'id' | 'revision'>,
): BoardSwap | undefined {
  const change: Change = { id: 'board', kind: 'new-board', board: id, revision };
  const found = ripple(before, [change]);
  const after = resolve(found.after, before.catalogue);
  if ('problems' in after) return undefined;
  return {
    change,
    plan: swapPlan(before, after.facts, found.consequences),
    after: after.facts,
    contradictions: found.contradictions,
    unmeetable: findHarness(caseOf(after.facts, before)).unmeetable,
  };
}
