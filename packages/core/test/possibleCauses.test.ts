import { describe, expect, it } from 'vitest';
import { fixedName } from '../src/board/cardRule';
import { cardRouteOf, type CardRoute, isCardRoute } from '../src/board/route';
import { powerStages } from '../src/firstPower/stages';
import { routeWords } from '../src/flash/routeWords';
import type { Facts } from '../src/machine/facts';
import { heaterProofs } from '../src/proofs/heaters';
import { identityProof } from '../src/proofs/identity';
import { motorProofs } from '../src/proofs/motors';
import type { Proof } from '../src/proofs/proof';
import { proofSteps } from '../src/proofs/proofs';
import { demoMachine, factsOf, installed } from './fixtures/demo';

const demo = (id: string): Facts => factsOf(demoMachine(id));
const causes = ({ causes: all }: Pick<Proof, 'causes'>, finding: string) =>
  (all[finding] ?? []).map(({ cause, look }) => `${cause}. ${look}`).join('\n');
const first = (proofs: readonly Proof[]): Proof => {
  const [proof] = proofs;
  if (!proof) throw new Error('there is no such proof');
  return proof;
};
const { boards } = installed.catalogue;

describe('what may be behind a finding is possible on the machine', () => {
  it.each(boards.map((board) => [`${board.name} ${board.revision}`, board] as const))('%s: a card is named as it takes one', (_, board) => {
    const facts = { ...demo('dunlin'), board };
    const told = causes(identityProof(facts), 'other');
    const rule = cardRouteOf(board)?.rule;
    expect(told.includes('card')).toBe(rule !== undefined);
    expect(told.includes('under another name')).toBe(rule?.ignoresRepeat === true);
    expect(told.includes('.OLD')).toBe(rule?.renames === true);
    if (rule?.kind === 'fixed') expect(told).toContain(`it takes ${fixedName(rule)} only`);
    expect(told.includes('A tool wrote')).toBe(board.routes.some((route) => !isCardRoute(route)));
    expect(told).toContain('The power was not really off');
    const jumper = (board.jumpers ?? []).some(({ sets }) => sets === 'usb power');
    expect(causes(identityProof(facts), 'refused').includes('jumper')).toBe(jumper);
    // Of what comes in from the supply no jumper picks anything.
    const ownRail = powerStages(facts).some(({ rails }) => rails.some(({ source }) => source !== 'vin'));
    expect(JSON.stringify(powerStages(facts)).includes('the jumper that picks')).toBe(jumper && ownRail);
  }); // prettier-ignore

  it('where USB can feed the logic alone, a supply that is off moves and warms nothing', () => {
    for (const board of boards) {
      const facts = { ...demo('plover'), board };
      const usb = (board.jumpers ?? []).some(({ sets }) => sets === 'usb power');
      const off = (proof: Proof, finding: string) => causes(proof, finding).includes('supply is off');
      expect([off(first(motorProofs(facts)), 'nothing'), off(first(heaterProofs(facts)), 'none')]).toEqual([usb, usb]);
    }
  }); // prettier-ignore

  it('what a machine has not got is behind nothing', () => {
    const [plover, bittern, dunlin] = [demo('plover'), demo('bittern'), demo('dunlin')];
    const shared = (facts: Facts) => causes(first(motorProofs(facts)), 'other').includes('share the belt');
    expect([shared(plover), shared(bittern)]).toEqual([false, true]);
    const slot = (facts: Facts) => causes(identityProof(facts), 'other').includes('slot of the display');
    expect(slot(dunlin)).toBe(dunlin.parts.some(({ type }) => type.kind === 'display'));
    const without = (...kinds: string[]): Facts => ({ ...plover, parts: plover.parts.filter(({ id, type }) => !kinds.includes(type.kind) && id !== 'bed-heater' && id !== 'bed-sensor') });
    const alone = first(heaterProofs(without('fan')));
    expect(causes(first(heaterProofs(plover)), 'none')).toContain('Heater and fan');
    expect(causes(alone, 'none')).not.toContain('fan');
    expect(causes(alone, 'slow')).not.toContain('part fan');
    // What would leave nothing to look at stays.
    expect(causes(alone, 'other')).toContain('two heaters');
  }); // prettier-ignore

  it('an input is suspected of what it can have: a supply, a contact that is closed at rest', () => {
    const told = (id: string, step: string, finding: string) => {
      const proof = proofSteps(demo(id)).find((one) => one.id === step);
      if (!proof) throw new Error(`${id} has no ${step}`);
      return causes(proof, finding);
    };
    // Levers without a supply: Plover's are closed at rest, Bittern's open.
    for (const id of ['plover', 'bittern']) expect(told(id, 'switch-x', 'never')).not.toContain('supply');
    expect(told('plover', 'probe', 'never')).toContain('no supply or the wrong one');
    // What drives its line by itself floats for no want of a pull-up; a contact, and what only pulls down, may.
    const lifted = (id: string, step: string) => told(id, step, 'chatters').includes('pull-up');
    expect([lifted('plover', 'probe'), lifted('plover', 'switch-x'), lifted('bittern', 'probe')]).toEqual([false, true, true]);
    expect(told('plover', 'probe', 'chatters')).toContain('no supply or the wrong one');
    const closed = (id: string, step: string) => told(id, step, 'always').includes('closed at rest');
    expect([closed('plover', 'switch-x'), closed('bittern', 'switch-x'), closed('plover', 'probe')]).toEqual([true, false, false]);
    expect(told('plover', 'warm-hotend', 'other')).toContain('two sensors');
    // A wire that is off opens the circuit: that is no met switch where a contact is open at rest.
    const off = (id: string) => told(id, 'home', 'switch read as met').includes('lead is off');
    expect([off('plover'), off('bittern'), off('dunlin')]).toEqual([true, false, false]);
    const high = demo('plover').parts.some(({ type }) => type.kind === 'probe' && type.triggered === 'high');
    expect(told('plover', 'home', 'probe read as met').includes('lead is off')).toBe(high);
  }); // prettier-ignore

  it.each(['plover', 'bittern', 'dunlin'])(
    '%s: every finding keeps a cause, and none carries its condition',
    (id) => {
      for (const { id: step, causes: all } of proofSteps(demo(id)))
        for (const [finding, list] of Object.entries(all)) {
          expect(list.length, `${step} ${finding}`).toBeGreaterThan(0);
          for (const cause of list) expect(Object.keys(cause)).not.toContain('when');
        }
    },
  );
});

describe('a card that was left alone', () => {
  const { board, chip } = demo('plover');
  const route = cardRouteOf(board) as CardRoute;
  it.each([
    [{ kind: 'any', ignoresRepeat: true, renames: true }, 'and the file keeps its name.', 'It had a file of that name before, it cannot read', 'Give it a name it has not had, alone'],
    [{ kind: 'any', ignoresRepeat: false, renames: false }, 'starts as before.', 'It cannot read the card, or two images', 'Put it onto the card again, alone'],
    [{ kind: 'fixed', name: 'CURLEW', ignoresRepeat: false, renames: true }, 'keeps its name.', 'It cannot read the card, the name is another one, or two', 'Name it CURLEW.BIN, alone'],
  ] as const)('%j', (rule, sees, because, out) => {
    const [trouble] = routeWords({ ...route, rule: { extension: 'BIN', ...rule } }, board, chip).trouble;
    expect(trouble?.sees).toContain(sees);
    expect(trouble?.because).toContain(because);
    expect(trouble?.out).toContain(out);
  }); // prettier-ignore
});
