import type { Finding } from '@jolly/core';
import { describe, expect, it } from 'vitest';
import type { Build, Proofs, StoredBoard } from '../../api/api';
import type { Workbench } from '../../workbench/Workbench';
import type { JobBench } from '../../job/JobProvider';
import { allProven, type Known, stationTeeth, suggestedName } from './teeth';

const rule = { kind: 'any', extension: 'BIN', ignoresRepeat: true, renames: true };
const workbench = (findings: Finding[] = []): Workbench =>
  ({
    version: 3,
    findings,
    machine: { id: 'plover', name: 'Plover' },
    kit: { options: [{ key: 'steps.x', part: 'x' }] },
    facts: { parts: [{ id: 'part-fan', role: 'part', type: { kind: 'fan' } }] },
    chip: { id: 'c', flash_bytes: 1000, ram_bytes: 1000 },
    board: { routes: [{ rule }] },
  }) as unknown as Workbench;
const finding = (severity: Finding['severity'], subject: Finding['subject']): Finding => ({
  id: 'x',
  severity,
  subject,
  what: '',
  why: '',
  evidence: [],
  remedies: [],
});
const build = (changes: Partial<Extract<Build, { state: 'done' }>> = {}): Build => ({
  id: '1',
  machineId: 'plover',
  machineVersion: 3,
  startedAt: '',
  state: 'done',
  endedAt: '',
  imageHash: 'aa',
  buildId: 'b',
  sizes: { flashBytes: 500, ramBytes: 500, stackBytes: 100, bySource: [] },
  compiled: 0,
  changed: [],
  ...changes,
});
const board = (changes: Partial<StoredBoard> = {}): StoredBoard => ({
  imageHash: null,
  store: '',
  namesTaken: [],
  card: null,
  ...changes,
});
const noJob = {
  photos: [],
  putBack: [],
  wayBack: { kept: [], findings: [], waivers: [], drawer: [] },
  isDone: () => false,
} as unknown as JobBench;
const known = (changes: Partial<Known> = {}): Known => ({
  job: noJob,
  workbench: workbench(),
  builds: [],
  board: board(),
  proofs: undefined,
  entries: [],
  ...changes,
});
const teeth = (station: string, changes: Partial<Known> = {}) =>
  Object.fromEntries(
    stationTeeth(known(changes))
      .find((entry) => entry.id === station)!
      .teeth.map((tooth) => [tooth.id, tooth.state]),
  );

describe('Settings', () => {
  it('has a tooth for each part of the machine, broken by a stop, hollow by less, filled by notes alone', () => {
    const findings = [
      finding('stop', { kind: 'setting', id: 'steps.x' }),
      finding('mend', { kind: 'part', id: 'part-fan' }),
      finding('note', { kind: 'fact', id: 'frame.room_mm.y' }),
    ];
    const states = teeth('settings', { workbench: workbench(findings) });
    expect(states).toMatchObject({ x: 'stopped', frame: 'todo', y: 'done' });
    expect(Object.keys(states)).toHaveLength(9);
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
      startedAt: '',
      state: 'failed',
      endedAt: '',
      failed: { file: '', line: 0, message: '' },
    };
    expect(teeth('build', { builds: [failed, build()] })['built']).toBe('stopped');
    const fat = build({ sizes: { flashBytes: 1001, ramBytes: 985, stackBytes: 1, bySource: [] } });
    expect(teeth('build', { builds: [fat] })).toMatchObject({ flash: 'stopped', ram: 'done', brim: 'todo' });
  });
});

describe('Flash', () => {
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
  const step = (id: string) => ({ id, title: id, act: '', restsOn: [] });
  const proof = (id: string, outcome: 'proven' | 'failed') => ({ step: id, outcome, evidence: [], at: '' });
  const proofs = (...made: Proofs['proofs']): Proofs => ({
    imageHash: 'aa',
    steps: [step('identity'), step('home')],
    proofs: made,
  });
  it('a failed proof is broken, one not made hollow', () => {
    expect(
      teeth('bring-up', { proofs: proofs(proof('identity', 'proven'), proof('home', 'failed')) }),
    ).toEqual({ identity: 'done', home: 'stopped' });
    expect(teeth('bring-up', { proofs: proofs() })).toEqual({ identity: 'todo', home: 'todo' });
  });
  it('a machine is proven only when every step is', () => {
    expect(allProven(undefined)).toBe(false);
    expect(allProven({ imageHash: 'aa', steps: [], proofs: [] })).toBe(false);
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
});
