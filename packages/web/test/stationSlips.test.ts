import { describe, expect, it } from 'vitest';
import { surveyTick } from '@jolly/core/ripple/surveyTick';
import type { JobBench } from '../src/job/JobProvider';
import { wayBackSlips } from '../src/stations/flash/wayBackSlips';
import { surveySlips } from '../src/stations/survey/surveySlips';
import { litPlaces } from '../src/stations/wiring/litPlaces';

const ripple = (part: object = {}) => ({ contradictions: [], consequences: [], flash: true, ...part });
/** As much of a job as slips look at. */
const job = (part: object = {}) =>
  ({
    stored: { job: { changes: [], before: { board: { id: 'alder-a32', revision: '1.1' } } } },
    tail: { ripple: ripple() },
    photos: [],
    putBack: [],
    isDone: () => false,
    tick: () => Promise.resolve(undefined),
    ...part,
  }) as unknown as JobBench;
const ids = (part: object = {}) => surveySlips('plover', job(part)).map(({ id }) => id);

describe('what the survey says is to be settled', () => {
  it('without a job: leave the machine alone, and nothing to do', () => {
    expect(ids({ stored: undefined, tail: undefined })).toEqual(['no-job']);
  });
  it('with one: each step that is left, and none that is done', () => {
    expect(ids()).toEqual(['board', 'report', 'losses', 'ready']);
    expect(ids({ isDone: (id: string) => id === 'survey:board' })).toEqual(['report', 'losses', 'ready']);
    expect(ids({ isDone: () => true })).toEqual([]);
    const ready = surveyTick('ready', []);
    expect(ids({ isDone: (id: string) => id === ready })).not.toContain('ready');
    // What was laid out for other changes is laid out again.
    const more = [{ id: 'n', kind: 'nozzle' }];
    expect(ids({ isDone: (id: string) => id === ready, stored: { job: { changes: more } } })).toContain(
      'ready',
    );
  });
  it('losses are looked at only where another image is needed', () => {
    expect(ids({ tail: { ripple: ripple({ flash: false }) } })).not.toContain('losses');
    // Not known yet is not needed yet; it comes when the tail is there.
    expect(ids({ tail: undefined })).not.toContain('losses');
  });
  it('photos are wanted where leads move, and enough when there is one', () => {
    const moving = { tail: { ripple: ripple({ consequences: [{ id: 'lead:x', kind: 'lead' }] }) } };
    expect(ids(moving)).toContain('photos');
    const of = (revision: string) => ({ ...moving, photos: [{ board: { id: 'alder-a32', revision } }] });
    expect(ids(of('1.1'))).not.toContain('photos');
    // The connectors of another board are other connectors.
    expect(ids(of('1.0'))).toContain('photos');
  });
  it('a contradiction and a wrong voltage stop, and lead to the changes', () => {
    const found = surveySlips(
      'plover',
      job({
        isDone: () => true,
        tail: {
          ripple: ripple({
            contradictions: [{ id: 'two', changes: ['a', 'b'], what: 'Two boards.', why: 'One is enough.' }],
            consequences: [
              { id: 'caution:volts-fan', kind: 'caution', title: 'A 12 V fan at 24 V', because: 'it burns' },
              { id: 'caution:other', kind: 'caution', title: 'Pinching', because: 'belts' },
            ],
          }),
        },
      }),
    );
    expect(found.map(({ id, severity }) => [id, severity])).toEqual([
      ['contradiction:two:a,b', 'stop'],
      ['caution:volts-fan', 'stop'],
    ]);
    for (const { actions } of found)
      expect(actions).toEqual([{ label: 'To the changes', go: '/machines/plover/survey?at=job' }]);
  });
  it('what was done for a change that is gone is put back, and unticked by it', () => {
    const ticked: unknown[] = [];
    const done = { id: 'lead:fan' };
    const [slip] = surveySlips(
      'plover',
      job({
        isDone: () => true,
        putBack: [{ done, title: 'Put the fan back' }],
        tick: (what: unknown, on: boolean) => ticked.push([what, on]),
      }),
    );
    const [action] = slip!.actions;
    (action as { run: () => void }).run();
    expect(ticked).toEqual([[done, false]]);
  });
});

describe('without a way back', () => {
  const wayBack = {
    findings: [{ id: 'keep.no-way-back', severity: 'stop', what: 'None.', why: 'It is gone.', evidence: [] }],
  };
  it('every station that overwrites says so; nothing is said while it is not known', () => {
    const [slip] = wayBackSlips('plover', job({ wayBack }));
    expect(slip).toMatchObject({ severity: 'stop', check: 'keep.no-way-back' });
    expect(slip!.actions).toEqual([{ label: 'To the way back', go: '/machines/plover/survey?at=way-back' }]);
    expect(wayBackSlips('plover', job({ wayBack: undefined }))).toEqual([]);
    expect(ids({ wayBack, isDone: () => true })).toEqual(['keep.no-way-back']);
  });
});

describe('places that are lit for a lead', () => {
  const at = (contact: string, price: number, taken = false) => ({
    landing: { leads: { signal: contact } },
    price,
    lines: [],
    clashes: taken ? [{ part: 'fan', what: 'fan has it' }] : [],
  });
  it('each header once, by its cheapest free landing', () => {
    const { places, best } = litPlaces([at('SX.1', 0), at('SX.2', 3), at('SY.1', 8)], undefined);
    expect(places.get('SX')).toEqual({ word: '0', state: 'free' });
    expect(places.get('SY')).toEqual({ word: '8', state: 'free' });
    expect(best.get('SX')).toEqual({ leads: { signal: 'SX.1' } });
  });
  it('taken only where no landing is free, and nothing can be dropped there', () => {
    const { places, best } = litPlaces(
      [at('SX.1', 0, true), at('SX.2', 5), at('SZ.1', 1, true), at('SZ.2', 2, true)],
      undefined,
    );
    expect(places.get('SX')).toEqual({ word: '5', state: 'free' });
    expect(places.get('SZ')).toEqual({ word: '', state: 'taken' });
    expect(best.has('SZ')).toBe(false);
  });
  it('where the lead is now is here, whatever it costs', () => {
    const { places } = litPlaces([at('SX.1', 0)], { leads: { signal: 'SX.1' } });
    expect(places.get('SX')).toEqual({ word: '', state: 'here' });
  });
});
