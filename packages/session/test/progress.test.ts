import type { Finding } from '@jolly/core/finding/finding';
import { surveyTick } from '@jolly/core/ripple/surveyTick';
import { describe, expect, it } from 'vitest';
import type { Build } from '@jolly/contract/endpoints/builds';
import type { Proofs } from '@jolly/contract/endpoints/board';
import { suggestedName } from '../src/cardState';
import type { KnownJob } from '../src/known';
import { allProven } from '../src/progress';

import { board, build, finding, noJob, teeth, workbench } from './fixtures/known';

describe('Settings', () => {
  it('has a tooth for each part of the machine, broken by a stop, hollow by less, filled by notes alone', () => {
    const findings = [
      finding('stop', { kind: 'setting', id: 'steps.x' }),
      finding('mend', { kind: 'part', id: 'part-fan' }),
      finding('note', { kind: 'fact', id: 'frame.room_mm.y' }),
    ];
    const states = teeth('settings', { workbench: workbench(findings) });
    expect(states).toMatchObject({ x: 'stopped', fans: 'todo', frame: 'done', y: 'done' });
    expect(Object.keys(states)).toHaveLength(14);
  });
  it('what is set aside fills its tooth', () => {
    const aside = { ...finding('stop', { kind: 'setting', id: 'steps.x' }), waived: 'a test stand' };
    expect(teeth('settings', { workbench: workbench([aside]) })).toMatchObject({ x: 'done' });
    expect(teeth('build', { workbench: workbench([aside]) })).toMatchObject({ clear: 'done' });
  });
  it('asks for a missing fact under its axis', () => {
    expect(
      teeth('settings', {
        workbench: workbench([finding('question', { kind: 'fact', id: 'frame.room_mm.z' })]),
      }),
    ).toMatchObject({ z: 'todo', frame: 'done' });
  });
});

describe('Build', () => {
  it('is not fresh once the machine was changed', () => {
    expect(teeth('build', { builds: [build()] })['fresh']).toBe('done');
    expect(teeth('build', { builds: [build({ machineVersion: 2 })] })['fresh']).toBe('todo');
  });
  it('stops at a finding, a failed build and an image that does not fit', () => {
    expect(
      teeth('build', { workbench: workbench([finding('stop', { kind: 'machine', id: 'm' })]) })['clear'],
    ).toBe('stopped');
    const failed: Build = {
      id: '2',
      machineId: 'plover',
      machineVersion: 3,
      label: '',
      pinned: false,
      startedAt: '',
      state: 'failed',
      endedAt: '',
      failed: { file: '', line: 0, message: '' },
    };
    expect(teeth('build', { builds: [failed, build()] })['built']).toBe('stopped');
    const fat = build({ sizes: { flashBytes: 1001, ramBytes: 985, stackBytes: 1, bySource: [] } });
    expect(teeth('build', { builds: [fat] })).toMatchObject({ flash: 'stopped', ram: 'done', brim: 'todo' });
    // That an older image fits says nothing of the settings as they are.
    expect(teeth('build', { builds: [build({ machineVersion: 2 })] })).toMatchObject({
      flash: 'todo',
      ram: 'todo',
      brim: 'todo',
    });
    expect(teeth('build', { builds: [build()] })).toMatchObject({ flash: 'done', ram: 'done', brim: 'done' });
  });
  it('what was built for the board before is no image for this one', () => {
    const other = build({ id: '2', imageHash: 'bb', target: 'fenwick' });
    expect(teeth('build', { builds: [other] })).toMatchObject({
      built: 'todo',
      fresh: 'todo',
      flash: 'todo',
    });
    expect(teeth('flash', { builds: [other] })).toMatchObject({ image: 'todo' });
    expect(teeth('build', { builds: [other, build({ target: 'alder' })] })).toMatchObject({ built: 'done', fresh: 'done' }); // prettier-ignore
  });
});

describe('Flash', () => {
  it('one stop is enough for there to be no way back', () => {
    const wayBack = (findings: Finding[]) => ({ kept: [], findings, waivers: [], drawer: [] });
    const job = (findings: Finding[]) => ({ ...noJob, wayBack: wayBack(findings) }) as unknown as KnownJob;
    const stop = finding('stop', { kind: 'machine', id: 'plover' });
    expect(teeth('flash', { job: job([stop]) })['way-back']).toBe('stopped');
    expect(teeth('flash', { job: job([]) })['way-back']).toBe('done');
    expect(teeth('flash', { job: { ...noJob, wayBack: undefined } })['way-back']).toBe('todo');
  });
  const card = { format: 'FAT32' as const, sizeGb: 8, files: [{ name: 'PLOV.BIN', imageHash: 'aa' }] };
  it('fills as the card is written and taken', () => {
    expect(teeth('flash', { builds: [build()] })).toMatchObject({
      image: 'done',
      written: 'todo',
      taken: 'todo',
    });
    expect(teeth('flash', { builds: [build()], board: board({ card }) })).toMatchObject({
      name: 'done',
      card: 'done',
      written: 'done',
      taken: 'todo',
    });
    expect(
      teeth('flash', {
        builds: [build()],
        board: board({ card, imageHash: 'aa', namesTaken: ['PLOV.BIN'] }),
      }),
    ).toMatchObject({ name: 'done', taken: 'done', says: 'done' });
  });
  it('a used name and a wrong format leave their teeth hollow', () => {
    expect(
      teeth('flash', { builds: [build()], board: board({ card, namesTaken: ['plov.bin'] }) })['name'],
    ).toBe('todo');
    expect(
      teeth('flash', { builds: [build()], board: board({ card: { ...card, format: 'exFAT' } }) })['card'],
    ).toBe('todo');
  });
  it('suggests a name the board has not seen', () => {
    expect(suggestedName(workbench(), board(), '2026-11-24')).toBe('PLOV1124.BIN');
    expect(suggestedName(workbench(), board({ namesTaken: ['PLOV1124.BIN'] }), '2026-11-24')).toBe(
      'PLO11241.BIN',
    );
  });
});

describe('Bring-up and Logbook', () => {
  const step = (id: string) => ({ id, title: id, act: '', restsOn: [], after: [], causes: {} });
  const proof = (id: string, outcome: 'proven' | 'failed') => ({
    step: id,
    imageHash: 'aa',
    outcome,
    evidence: [],
    at: '',
  });
  const proofs = (...made: Proofs['proofs']): Proofs => ({
    imageHash: 'aa',
    steps: [step('identity'), step('home')],
    proofs: made,
    voided: [],
  });
  it('a failed proof is broken, one not made hollow', () => {
    expect(
      teeth('bring-up', { proofs: proofs(proof('identity', 'proven'), proof('home', 'failed')) }),
    ).toEqual({ identity: 'done', home: 'stopped' });
    expect(teeth('bring-up', { proofs: proofs() })).toEqual({ identity: 'todo', home: 'todo' });
  });
  it('a machine is proven only when every step is', () => {
    expect(allProven(undefined)).toBe(false);
    expect(allProven({ imageHash: 'aa', steps: [], proofs: [], voided: [] })).toBe(false);
    expect(allProven(proofs(proof('identity', 'proven')))).toBe(false);
    expect(allProven(proofs(proof('identity', 'proven'), proof('home', 'failed')))).toBe(false);
    expect(allProven(proofs(proof('identity', 'proven'), proof('home', 'proven')))).toBe(true);
  });
  it('records count only for the image at hand', () => {
    const entry = { id: 1, at: '', kind: 'build' as const, summary: '', detail: { imageHash: 'other' } };
    expect(teeth('logbook', { builds: [build()], entries: [entry] })['build']).toBe('todo');
    expect(
      teeth('logbook', { builds: [build()], entries: [{ ...entry, detail: { imageHash: 'aa' } }] })['build'],
    ).toBe('done');
  });
  it('which image runs is known only when one is on record, and it says who it is', () => {
    const image = {
      name: 'Plover',
      buildId: '1a2b3c4d',
      target: 'alder-a32-1',
      loadAddress: 0,
      kitVersion: '0.1.0',
    };
    expect(teeth('logbook')['image']).toBe('todo');
    expect(teeth('logbook', { board: undefined })['image']).toBe('todo');
    expect(teeth('logbook', { board: board({ imageHash: 'aa' }) })['image']).toBe('todo');
    expect(teeth('logbook', { board: board({ imageHash: 'aa', image }) })['image']).toBe('done');
  });
});

describe('Survey, Wiring and Calibrate', () => {
  const entry = (kind: string, subject: string, station: string) => ({
    id: `${kind}:${subject}`,
    kind,
    subject,
    station,
    title: subject,
    because: '',
    causes: ['c'],
  });
  const job = (changes: Partial<KnownJob> = {}, flash = true): KnownJob =>
    ({
      ...noJob,
      stored: { job: { done: [], changes: [], before: { board: { id: 'alder-a32', revision: '1.1' } } } },
      tail: {
        ripple: {
          flash,
          contradictions: [],
          consequences: [
            entry('lead', 'x-switch', 'wiring'),
            entry('idle', 'z-switch', 'wiring'),
            entry('decide', 'steps.x', 'settings'),
            entry('calibration', 'pid-bed', 'calibrate'),
            entry('slicer', 'volume', 'calibrate'),
          ],
        },
      },
      ...changes,
    }) as unknown as KnownJob;

  it('without a job only the way back is a tooth, and nothing is to wire or calibrate', () => {
    expect(teeth('survey')).toEqual({ 'way-back': 'done' });
    expect(teeth('wiring')).toEqual({});
    expect(teeth('calibrate')).toEqual({});
  });
  it('a job holds together only once its tail is known, and photos are wanted where leads move', () => {
    expect(teeth('survey', { job: job() }).job).toBe('done');
    expect(teeth('survey', { job: job({ tail: undefined }) })).toMatchObject({ job: 'todo' });
    expect(Object.keys(teeth('survey', { job: job({ tail: undefined }) }))).not.toContain('photos');
  });
  it('a job has a tooth for every step, lead, calibration and slicer line', () => {
    expect(Object.keys(teeth('survey', { job: job() }))).toEqual([
      'job',
      'board',
      'report',
      'losses',
      'way-back',
      'photos',
      'ready',
    ]);
    expect(teeth('wiring', { job: job() })).toEqual({ 'lead:x-switch': 'todo' });
    expect(Object.keys(teeth('calibrate', { job: job() }))).toEqual(['calibration:pid-bed', 'slicer:volume']);
    const done = job({ isDone: (id) => id === 'lead:x-switch' });
    expect(teeth('wiring', { job: done })).toEqual({ 'lead:x-switch': 'done' });
  });
  it('what was ticked for other changes, or photographed of another board, is to be done again', () => {
    const ticked = surveyTick('ready', []);
    const isDone = (id: string) => id === ticked;
    expect(teeth('survey', { job: job({ isDone }) }).ready).toBe('done');
    const more = { job: { ...job().stored!.job, changes: [{ id: 'n', kind: 'nozzle' as const }] } };
    expect(teeth('survey', { job: job({ isDone, stored: more as never }) }).ready).toBe('todo');
    const photos = (revision: string) => [{ board: { id: 'alder-a32', revision } }] as KnownJob['photos'];
    expect(teeth('survey', { job: job({ photos: photos('1.1') }) }).photos).toBe('done');
    expect(teeth('survey', { job: job({ photos: photos('1.0') }) }).photos).toBe('todo');
  });
  it('what is due beside what the job asks for has a tooth of its own, and is not done', () => {
    const dues = [{ id: 'pid-bed', title: '' }, { id: 'tram', title: 'Tram' }]; // prettier-ignore
    const { 'due:tram': due, ...others } = teeth('calibrate', { job: job({ isDone: () => true, dues }) });
    expect([due, Object.keys(others)]).toEqual(['todo', ['calibration:pid-bed', 'slicer:volume']]);
  });
  it('a calibration that was ticked and is due again is not done', () => {
    const isDone = () => true;
    expect(teeth('calibrate', { job: job({ isDone }) })['calibration:pid-bed']).toBe('done');
    const dues = [{ id: 'pid-bed', title: '' }];
    expect(teeth('calibrate', { job: job({ isDone, dues }) })['calibration:pid-bed']).toBe('todo');
  });
  it('an open decision keeps its part of the machine hollow', () => {
    expect(teeth('settings', { job: job() }).x).toBe('todo');
    expect(teeth('settings', { job: job({ isDone: () => true }) }).x).toBe('done');
  });
  it('changes that contradict each other break the job’s tooth; a missing way back its own and the one in Flash', () => {
    const torn = job();
    torn.tail!.ripple.contradictions.push({ id: 'either-or', changes: [], what: '', why: '' });
    expect(teeth('survey', { job: torn }).job).toBe('stopped');
    torn.tail!.ripple.contradictions.push({ id: 'neither-nor', changes: [], what: '', why: '' });
    expect(teeth('survey', { job: torn }).job).toBe('stopped');
    const lost = job({
      wayBack: {
        kept: [],
        waivers: [],
        drawer: [],
        bench: { board: 'A', wanted: 'A', isWanted: true },
        findings: [{ id: 'keep.no-way-back' } as Finding],
      },
    });
    expect(teeth('survey', { job: lost })['way-back']).toBe('stopped');
    // Not known yet is not missing.
    expect(teeth('survey', { job: job({ wayBack: undefined }) })['way-back']).toBe('todo');
    expect(teeth('flash', { job: lost })['way-back']).toBe('stopped');
  });
  it('a job that needs no image has no teeth in Build and Flash', () => {
    expect(teeth('build', { job: job({}, false) })).toEqual({});
    expect(teeth('flash', { job: job({}, false) })).toEqual({});
    expect(Object.keys(teeth('build', { job: job() })).length).toBeGreaterThan(0);
  });
  it('a job that needs no image and voids no proof has none in Bring-up; one that voids a proof keeps them', () => {
    const proofs = {
      imageHash: 'aa',
      steps: [{ id: 'home', title: '', act: '', restsOn: [], after: [], causes: {} }],
      proofs: [],
      voided: [],
    };
    expect(teeth('bring-up', { proofs, job: job({}, false) })).toEqual({});
    const voids = job({}, false);
    voids.tail!.ripple.consequences.push(entry('proof', 'home', 'bring-up') as never);
    expect(teeth('bring-up', { proofs, job: voids })).toEqual({ home: 'todo' });
    expect(teeth('bring-up', { proofs, job: noJob })).toEqual({ home: 'todo' });
  });
  it('what must be put back comes before the leads', () => {
    const back = { title: 'Put x back', done: { id: 'lead:x@M1' } } as KnownJob['putBack'][number];
    expect(Object.keys(teeth('wiring', { job: job({ putBack: [back] }) }))).toEqual([
      'back:lead:x@M1',
      'lead:x-switch',
    ]);
  });
});
