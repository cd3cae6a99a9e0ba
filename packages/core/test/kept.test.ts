import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inWorkingOrder } from '../src/ripple/changes';
import { ripple } from '../src/ripple/ripple';
import { lastFew } from '../src/tree/lastFew';
import { once } from '../src/tree/once';
import { demoMachine, factsOf } from './fixtures/demo';
import { ploverJob } from './fixtures/job';

describe('what is kept of what was asked', () => {
  it('is the few asked for last, each computed once while it is kept', () => {
    const questions = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 40 });
    fc.assert(
      fc.property(questions, fc.integer({ min: 1, max: 5 }), (asked, most) => {
        const [few, kept] = [lastFew<string | undefined>(most), [] as string[]];
        for (const question of asked) {
          let computed = false;
          const answer = few(question, () => ((computed = true), question === 'e' ? undefined : question));
          expect(answer).toBe(question === 'e' ? undefined : question);
          expect(computed, `${question} of ${asked.join('')}`).toBe(!kept.includes(question));
          if (!computed) kept.splice(kept.indexOf(question), 1);
          kept.push(question);
          if (kept.length > most) kept.shift();
        }
      }),
    );
  });

  it('is made once, also where it is nothing', () => {
    let made = 0;
    const nothing = once(() => void (made += 1));
    expect([nothing(), nothing(), made]).toEqual([undefined, undefined, 1]);
  });
});

describe('a tail of changes that follow those asked about before', () => {
  const job = ploverJob();
  const all = inWorkingOrder(job.changes);
  const plover = demoMachine('plover');

  it('is that of a machine never seen', () => {
    const seen = factsOf(job.before);
    const some = fc.subarray(all, { minLength: 1, maxLength: 4 });
    fc.assert(
      fc.property(fc.array(some, { minLength: 1, maxLength: 3 }), (asked) => {
        for (const changes of asked)
          expect(ripple(seen, changes)).toEqual(ripple(factsOf(job.before), changes));
      }),
      { numRuns: 25 },
    );
  });

  it('is another one for the same change with another value, and for another machine', () => {
    const seen = factsOf(plover);
    const bed = (width: number) => ripple(seen, [
      { id: 'bed', kind: 'frame-size', bed_mm: { x: [0, width], y: [0, 200] }, travel_mm: plover.frame.travel_mm },
    ]).after.frame.bed_mm.x; // prettier-ignore
    expect([bed(210), bed(220), bed(210)]).toEqual([[0, 210], [0, 220], [0, 210]]); // prettier-ignore
    const renamed = factsOf({ ...plover, name: 'Plover two' });
    expect(ripple(renamed, [{ id: 'new', kind: 'nozzle' }]).after.name).toBe('Plover two');
  });
});
