import { describe, expect, it } from 'vitest';
import { notKnownWithout, proposedParts, proposedPlace } from '../src/checks/notKnownChecks';
import { machineSchema } from '../src/machine/machine';
import { demoMachine, findingsAfter } from './fixtures/demo';

const plover = demoMachine('plover');
const parts = plover.parts.map(({ id }) => id).filter((id) => plover.harness[id]);
const open = (...ids: string[]) => ({ ...plover, not_known: ids.map(proposedPlace) });

describe('places that were proposed', () => {
  it('are open part by part, in the order of the machine file; a part without a place is none of them', () => {
    const [first = '', second = '', third = ''] = parts;
    const machine = open(third, first, 'no-such-part');
    expect(proposedParts(machine)).toEqual([first, third]);
    expect(machineSchema().validate(machine, { convert: false }).error).toBeUndefined();
    expect(notKnownWithout(machine, [first])).toEqual([proposedPlace(third)]);
    expect(notKnownWithout(machine, [first, third])).toBeUndefined();
    expect(notKnownWithout(machine, [second])).toEqual([proposedPlace(first), proposedPlace(third)]);
  });
  it('a harness proposed as a whole is open in every part, and is closed part by part too', () => {
    const machine = { ...plover, not_known: ['lamp', 'harness'] };
    expect(proposedParts(machine)).toEqual(parts);
    const [first = '', ...rest] = parts;
    expect(notKnownWithout(machine, [first])).toEqual(['lamp', ...rest.map(proposedPlace)]);
    expect(notKnownWithout(machine, parts)).toEqual(['lamp']);
  });
  it('are one question that names them, until each was followed', () => {
    const ask = (ids: string[]) => findingsAfter('plover', { path: ['not_known'], value: ids.map(proposedPlace) }).filter(({ id }) => id === 'harness.proposed'); // prettier-ignore
    const [first = '', second = ''] = parts;
    const [finding] = ask([first, second]);
    expect(finding).toMatchObject({
      severity: 'question',
      evidence: [`proposed, not seen: ${first}, ${second}`],
    });
    expect(finding?.remedies[0]?.edits).toEqual([{ path: ['not_known'], value: undefined }]);
    expect(ask([])).toEqual([]);
  });
});
