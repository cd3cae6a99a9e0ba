import type { Proof as Outcome, VoidedProof } from '@jolly/contract/endpoints/board';
import { proofsOf, unreadyFor } from '@jolly/core/proofs/proofs';
import { derive } from '@jolly/core/settings/derive';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { proofSlips } from '../src/stations/bringup/proofSlips';

const facts = factsOf(demoMachine('plover'));
const steps = proofsOf(facts, derive(facts));
const AT = '2026-11-28T08:00:00.000Z';
const outcome = (step: string, came: Outcome['outcome'] = 'proven', finding?: string) =>
  ({ step, outcome: came, evidence: [`saw ${step}`], at: AT, ...(finding !== undefined && { finding }) }) as unknown as Outcome; // prettier-ignore
interface At {
  proofs?: Outcome[];
  voided?: VoidedProof[];
  awake?: boolean;
  running?: string;
}
function shown({ proofs = [], voided = [], awake = true, running }: At = {}) {
  const ran: string[] = [];
  const slips = proofSlips('plover', {
    steps,
    proofs,
    voided,
    awake,
    running,
    run: ({ id }) => void ran.push(id),
  });
  const run = (id: string) => {
    const [action] = slips.find((slip) => slip.id === id)?.actions ?? [];
    if (action && 'run' in action) void action.run();
    return ran;
  };
  return { slips, run, runnable: slips.filter(({ actions }) => actions.length > 0).map(({ id }) => id) };
}
const [first] = steps;
if (!first) throw new Error('a machine has steps to prove');

describe('what is to be proven', () => {
  it('is every step, each once, whatever came of it', () => {
    fc.assert(
      fc.property(fc.subarray(steps.map(({ id }) => id)), fc.boolean(), (known, failed) => {
        const proofs = known.map((id, nth) => outcome(id, failed && nth % 2 === 0 ? 'failed' : 'proven'));
        const { slips } = shown({ proofs });
        expect(slips.map(({ id }) => id).sort()).toEqual(steps.map(({ id }) => id).sort());
      }),
      { numRuns: 40 },
    );
  });

  it('only what nothing else must come before can be run, and only while the board is awake', () => {
    fc.assert(
      fc.property(fc.subarray(steps.map(({ id }) => id)), fc.boolean(), (known, awake) => {
        const proofs = known.map((id) => outcome(id));
        const may = new Set(steps.filter((step) => unreadyFor(step, { steps, proofs }).length === 0).map(({ id }) => id)); // prettier-ignore
        for (const id of shown({ proofs, awake }).runnable)
          expect([awake, may.has(id)]).toEqual([true, true]);
        if (awake) expect(new Set(shown({ proofs, awake }).runnable)).toEqual(may);
      }),
      { numRuns: 40 },
    );
  });

  it('what was tested on another machine than this one is to be tested again, and says why', () => {
    const voided = [{ step: first.id, title: first.title, outcome: 'proven' as const, because: 'the board is not as it was', at: AT }]; // prettier-ignore
    const slip = shown({ voided }).slips.find(({ id }) => id === first.id);
    expect(slip).toMatchObject({ severity: 'todo', actions: [{ label: 'Test it' }] });
    expect(slip?.evidence.join()).toMatch(/^proven .* void since: the board is not as it was$/);
  });

  it('a proven step names nothing that has to come first', () => {
    const last = steps.find(({ after }) => after.length > 0);
    const slip = shown({ proofs: [outcome(last?.id ?? '')] }).slips.find(({ id }) => id === last?.id);
    expect(slip).toMatchObject({ severity: 'proven', why: last?.act });
  });

  it('a failed step proves nothing for what rests on it', () => {
    const failed = shown({ proofs: [outcome(first.id, 'failed')] });
    const proven = shown({ proofs: [outcome(first.id)] });
    expect(failed.runnable).toEqual([first.id]);
    expect(proven.runnable.length).toBeGreaterThan(1);
  });

  it('while one runs no other can be begun, and it is told that it runs', () => {
    const { runnable, slips } = shown({ proofs: [outcome(first.id)], running: first.id });
    expect(runnable).toEqual([first.id]);
    expect(slips.find(({ id }) => id === first.id)?.actions).toMatchObject([{ label: 'Test again', running: true }]); // prettier-ignore
  });

  it('runs the step of its slip', () => {
    expect(shown().run(first.id)).toEqual([first.id]);
  });

  it('says what comes first, and warns where it can be run at all', () => {
    const { slips } = shown({ proofs: [outcome(first.id)] });
    for (const step of steps) {
      const slip = slips.find(({ id }) => id === step.id);
      const before = unreadyFor(step, { steps, proofs: [outcome(first.id)] });
      expect(slip?.why).toBe(before.length > 0 ? `First: ${before.map(({ title }) => title).join('; ')}.` : step.act); // prettier-ignore
      const warns = step.caution !== undefined && before.length === 0 && step.id !== first.id;
      expect(slip?.caution).toBe(warns ? step.caution : undefined);
    }
  });
});

describe('the order of the slips', () => {
  it('what failed, what can be run, what waits, what is proven; each in working order', () => {
    const [, second] = steps;
    const proofs = [outcome(first.id), outcome(second!.id, 'failed')];
    const { slips, runnable } = shown({ proofs });
    const kinds = slips.map(
      ({ id, severity }) =>
      severity === 'stop' ? 'failed' : severity === 'proven' ? 'proven' : runnable.includes(id) ? 'ready' : 'waits', // prettier-ignore
    );
    const order = ['failed', 'ready', 'waits', 'proven'];
    expect(kinds).toEqual([...kinds].sort((a, b) => order.indexOf(a) - order.indexOf(b)));
    const place = new Map(steps.map(({ id }, nth) => [id, nth]));
    for (const kind of order) {
      const places = slips.filter((_, nth) => kinds[nth] === kind).map(({ id }) => place.get(id) ?? -1);
      expect(places).toEqual([...places].sort((a, b) => a - b));
    }
  });
});

describe('what came of a step', () => {
  it('proven is settled, with what was seen and when, and without causes', () => {
    const slip = shown({ proofs: [outcome(first.id)] }).slips.find(({ id }) => id === first.id);
    expect(slip).toMatchObject({ severity: 'proven', settled: true, causes: [] });
    expect(slip?.evidence[0]).toBe(`saw ${first.id}`);
    expect(slip?.evidence).toHaveLength(2);
  });
  it('failed has its causes, each with the place where it is mended', () => {
    let led = 0;
    for (const step of steps)
      for (const [finding, causes] of Object.entries(step.causes)) {
        const { slips } = shown({ proofs: [outcome(step.id, 'failed', finding)] });
        const slip = slips.find(({ id }) => id === step.id);
        expect([step.id, slip?.severity, slip?.settled]).toEqual([step.id, 'stop', undefined]);
        expect(slip?.causes?.map(({ cause }) => cause)).toEqual(causes.map(({ cause }) => cause));
        for (const { go } of slip?.causes ?? []) {
          if (!go) continue;
          led += 1;
          expect(go.to).toMatch(/^\/machines\/plover\/[a-z-]+(\?view=directions)?$/);
          expect(go.to.endsWith('?view=directions')).toBe(step.id.startsWith('motor-') && go.to.includes('/settings')); // prettier-ignore
          expect(go.title).toMatch(/^[A-Z]/);
        }
      }
    expect(led).toBeGreaterThan(5);
  });
  it('failed in a way that nobody knows has none', () => {
    const { slips } = shown({ proofs: [outcome(first.id, 'failed', 'constructor')] });
    expect(slips.find(({ id }) => id === first.id)?.causes).toEqual([]);
  });
});
