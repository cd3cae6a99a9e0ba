import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contactsOf } from '../src/board/contacts';
import { check } from '../src/checks/checks';
import { judgeLeads } from '../src/harness/judgeLeads';
import { MAIN_SUPPLY } from '../src/harness/purposes';
import { caseOf } from '../src/harness/wiringCase';
import { applyEdits } from '../src/machine/edit';
import { type Facts, resolve } from '../src/machine/facts';
import type { LeadLanding } from '../src/machine/landing';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf, installed } from './fixtures/demo';

/** What is wrong with a machine, notes aside. */
const wrong = (facts: Facts): Set<string> =>
  new Set(
    check(facts, derive(facts)).flatMap(({ id, severity, subject, what }) =>
      severity === 'note' ? [] : [JSON.stringify([id, subject, what])],
    ),
  );

const MACHINES = (['plover', 'bittern', 'dunlin'] as const).map((id) => {
  const facts = factsOf(demoMachine(id));
  const leads = facts.parts.flatMap(({ id: part, landing }) => (landing && 'leads' in landing ? Object.keys(landing.leads).map((role) => ({ part, role })) : [])); // prettier-ignore
  const contacts = [...contactsOf(facts.board).values()].filter(({ header }) => header.for !== MAIN_SUPPLY);
  return { facts, leads, contacts: contacts.map(({ name }) => name), before: wrong(facts) };
});

const moved = fc
  .constantFrom(...MACHINES)
  .chain((machine) =>
    fc.record({ machine: fc.constant(machine), lead: fc.constantFrom(...machine.leads), to: fc.constantFrom(...machine.contacts) }),
  ); // prettier-ignore

describe('a lead at any contact of a board', () => {
  it('is told of by a check wherever the search for places would not put it', () => {
    fc.assert(
      fc.property(moved, ({ machine: { facts, before }, lead: { part, role }, to }) => {
        const edits = [{ path: ['harness', part, 'leads', role], value: to }];
        const resolved = resolve(applyEdits(facts.machine, edits), installed.catalogue);
        if ('problems' in resolved) return;
        const placed = resolved.facts.parts.find(({ id }) => id === part);
        const { breaks, takes } = judgeLeads(caseOf(resolved.facts), placed!, placed!.landing as LeadLanding);
        const taken = resolved.facts.parts.some(({ id, landing }) => id !== part && landing && 'leads' in landing && takes.includes(`at:${to}`) && Object.values(landing.leads).includes(to)); // prettier-ignore
        const told = [...wrong(resolved.facts)].some((said) => !before.has(said));
        if (breaks.length > 0 || taken) expect([part, role, to, breaks, told]).toEqual([part, role, to, breaks, true]); // prettier-ignore
      }),
      { numRuns: 400 },
    );
  });
});
