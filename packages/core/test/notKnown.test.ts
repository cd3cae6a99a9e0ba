import { describe, expect, it } from 'vitest';
import { boardActions } from '../src/bringup/boardActions';
import { answersOf, passedOver } from '../src/describe/description';
import { openParts, openPartsInWords } from '../src/describe/openParts';
import { proofSummary } from '../src/formats/proofSheet';
import { applyEdits } from '../src/machine/edit';
import { proofSteps } from '../src/proofs/proofs';
import { derive } from '../src/settings/derive';
import { writeStartCode } from '../src/slicer/writeStartCode';
import { demoMachine, factsOf } from './fixtures/demo';
import { described, KNOT, made, questionsAbout } from './fixtures/knot';

const ofDemo = (id: string): Parameters<typeof boardActions> => {
  const facts = factsOf(demoMachine(id));
  return [facts, derive(facts)];
};

describe('what nobody said', () => {
  it('is taken for what most machines are, and listed; what is said to be not known stays a question', () => {
    expect(passedOver(described(KNOT)).map(({ id, unsaid }) => `${id}: ${unsaid}`)).toEqual(
      expect.arrayContaining(['z.second: no', 'x.gear: no gears', 'chamber.sensor: none']),
    );
    const open = ['x.gear', 'z.second', 'chamber.sensor'];
    const machine = made(described({ ...KNOT, 'z.second': null, 'x.gear': null, 'chamber.sensor': null }));
    expect(machine.not_known).toEqual(expect.arrayContaining(open));
    const asks = questionsAbout(machine).filter(({ subject }) => open.includes(subject.id));
    expect(asks.map(({ subject, remedies }) => [subject.id, remedies[0]?.label])).toEqual([
      ['x.gear', 'Say: no gears'],
      ['z.second', 'Say: no'],
      ['chamber.sensor', 'There is none'],
    ]);
    const answers = answersOf(machine);
    expect(open.map((id) => answers[id])).toEqual([undefined, undefined, undefined]);
    // Answered since, it is no question any more.
    const geared = applyEdits(machine, [{ path: ['axes', 'x', 'gear_ratio'], value: 3 }]);
    expect(questionsAbout(geared).map(({ subject }) => subject.id)).not.toContain('x.gear');
  });
});

describe('what rests on parts that nobody could name', () => {
  const machine = made(described({ ...KNOT, 'hotend.heater': null, 'motor.x': null }));
  const facts = factsOf(machine);
  const settings = derive(facts);
  it('is told as not known, and not as if there were none', () => {
    expect(openPartsInWords(machine)).toMatch(/^Motor of X; Motor of Y; Motor of Z; Motor of the extruder; and \d+ more$/); // prettier-ignore
    expect(settings.get('guard.hotend')?.because).toBe('no such heater is known');
    expect(settings.get('home.z.with')?.because).toBe('neither a Z switch nor a probe is known');
    expect(writeStartCode(facts, settings)).toContain('; not known yet: Motor of X; ');
    expect(openParts(demoMachine('plover'))).toEqual([]);
    expect(writeStartCode(...ofDemo('plover'))).not.toContain('not known yet');
  });
  it('heats nothing at a key, and is not proven by what is', () => {
    const labels = (of: Parameters<typeof boardActions>) => boardActions(...of).flatMap(({ actions }) => actions.map(({ label }) => label)); // prettier-ignore
    expect(labels([facts, settings]).filter((label) => /heat one|tune/i.test(label))).toEqual([]);
    expect(labels(ofDemo('plover'))).toEqual(expect.arrayContaining(['Preheat one', 'Self-tune at 200 °C']));
    const rows = proofSteps(facts, settings).map((step) => ({ step, outcome: 'proven' as const, evidence: [], when: '' })); // prettier-ignore
    const said = proofSummary({ facts, settings, rows });
    expect(said).toMatch(/^Proven as far as it is described: all \d+ steps/);
    expect(said).toContain('Not known, and so not tested: Motor of X; ');
  });
  it('is known once somebody has named it', () => {
    const named = applyEdits(machine, [{ path: ['parts', machine.parts.length], value: { id: 'x-motor', part: 'motor-200-12', role: 'x' } }]); // prettier-ignore
    expect(openParts(named).map(({ id }) => id)).not.toContain('motor.x');
  });
});
