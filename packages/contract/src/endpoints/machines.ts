import Joi from 'joi';
import { LONGEST_YAML } from '@jolly/core/text/limits';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { SEVERITIES, type Severity } from '@jolly/core/finding/finding';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import { POLICIES, type Policy } from '@jolly/core/fleet/policy';
import { lines } from '@jolly/core/text/plainText';
import { bytes, endpoint, json } from '../endpoint';
import { machine, sentMachine, storedEdit, storedMachine } from '../machine';
import { FILE_FAMILIES } from '../fileFamilies';
import { number, numbered, ofMachine, shortLine } from '../params';
import {
  anything,
  both,
  component,
  count,
  flag,
  known,
  list,
  moment,
  object,
  of,
  oneOf,
  optional,
  text,
  type TypeOf,
} from '../shape';
import { build } from './builds';
import { proof } from './board';
import type { Unguarded } from '@jolly/core/settings/guardsOff';
import { jobState, leftDue } from './jobs';

/** Longest name of a change, in characters. */
export const LONGEST_LABEL = 300;
/** How many logbook lines are listed at most. */
export const MOST_ENTRIES = 1000;

const counts = object(
  Object.fromEntries(SEVERITIES.map((severity) => [severity, count])) as Record<Severity, typeof count>, // by its keys
);

/** What the shelf shows of a machine: of one whose file names what is not there, what is wrong with it. */
const plate = both(
  storedMachine,
  object({
    boardName: optional(text),
    kitName: optional(text),
    /** Heated bodies without a guard, by the machine file or in the image on the board: said on every screen. */
    unguarded: optional(list(known<Unguarded>('what', 'on'))),
    problems: optional(list(object({ path: text, message: text }))),
    findings: optional(counts),
    image: optional(known<ImageHeader>('name', 'buildId', 'target')),
    proofs: optional(list(proof)),
    stepsToProve: optional(count),
    /** When a step was last tested, with whatever image: of the present one `proofs` tells. */
    lastProofAt: optional(moment),
    lastBuild: optional(build),
    job: optional(object({ title: text, state: jobState })),
    /** How many things are due to be measured, and what they are called. */
    due: optional(count),
    dueTitles: optional(list(text)),
    /** When it is to be updated, where somebody has said so. */
    policy: optional(of<Policy>(() => Joi.valid(...POLICIES))),
  }),
);
export type Plate = TypeOf<typeof plate>;

export const ENTRY_KINDS = [
  'note',
  'job',
  'kept',
  'settings',
  'build',
  'flash',
  'proof',
  'calibration',
] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

/** A line in a machine's logbook; never changed once written. A note of one's own and a measurement can be taken back. */
export const entry = object({
  id: count,
  at: moment,
  kind: oneOf(...ENTRY_KINDS),
  summary: text,
  detail: object({
    step: optional(text),
    buildId: optional(text),
    imageHash: optional(text),
    changed: optional(list(text)),
    evidence: optional(list(text)),
    outcome: optional(anything),
    /** Written by a person. */
    own: optional(flag),
    /** What a measurement settled that a job had left to do. */
    settled: optional(leftDue),
  }),
});
export type Entry = TypeOf<typeof entry>;

const states = object({ before: machine, after: machine });
const label = { label: text };

export const machines = {
  health: endpoint('get /health', {
    summary: 'Whether the server answers',
    answer: json(object({ ok: flag })),
  }),
  openApi: endpoint('get /openapi.json', { summary: 'This document', answer: json(anything) }),
  catalogue: endpoint('get /catalogue', {
    summary: 'Boards, chips, parts and kits',
    answer: json(component('Catalogue', known<Catalogue>('boards', 'chips', 'parts', 'kits', 'dialects'))),
  }),
  schema: endpoint('get /schemas/{family}', {
    summary: 'JSON Schema of a family of files: machine/1, job/1, board/1, …',
    params: { family: oneOf(...FILE_FAMILIES) },
    answer: json(anything),
  }),
  machines: endpoint('get /machines', {
    summary: 'The shelf: every machine with what runs on it and what is open',
    answer: json(list(plate)),
  }),
  addMachine: endpoint('post /machines', {
    summary: 'Add a machine from a machine file',
    body: object({ file: of<string>(() => Joi.string().max(LONGEST_YAML)) }),
    answer: json(storedMachine),
    refusals: ['bad-file', 'too-hard', 'unknown-id', 'id-taken'],
  }),
  machine: endpoint('get /machines/{id}', {
    summary: 'One machine and its version',
    params: ofMachine,
    answer: json(storedMachine),
  }),
  saveMachine: endpoint('put /machines/{id}', {
    summary: 'Save a machine over the version it was made from; a change without a name cannot be undone',
    params: ofMachine,
    body: object({
      version: of<number>(() => Joi.number().integer().min(1)),
      machine: sentMachine,
      label: optional(shortLine(LONGEST_LABEL)),
    }),
    answer: json(storedMachine),
    refusals: ['unknown-id', 'stale'],
  }),
  machineFile: endpoint('get /machines/{id}/file', {
    summary: 'The machine file (YAML)',
    params: ofMachine,
    answer: bytes,
  }),
  entries: endpoint('get /machines/{id}/entries', {
    summary: 'The logbook, newest first',
    params: ofMachine,
    answer: json(list(entry)),
  }),
  addNote: endpoint('post /machines/{id}/entries', {
    summary: 'Write a note of your own into the logbook',
    params: ofMachine,
    body: object({ summary: of<string>(() => lines(500).trim().min(1)) }),
    answer: json(list(entry)),
  }),
  takeNoteBack: endpoint('delete /machines/{id}/entries/{number}', {
    summary: 'Take a note of your own out of the logbook',
    params: numbered,
    answer: json(list(entry)),
  }),
  edits: endpoint('get /machines/{id}/edits', {
    summary: 'Changes of the machine file, newest first, with whether they are undone',
    params: ofMachine,
    answer: json(list(storedEdit)),
  }),
  edit: endpoint('get /machines/{id}/edits/{number}', {
    summary: 'One change with the machine before and after it',
    params: numbered,
    answer: json(both(storedEdit, states)),
  }),
  undo: endpoint('post /machines/{id}/undo', {
    summary:
      'Take a change back, the one that led to a version or else the last; what was changed since in other fields stays',
    params: ofMachine,
    query: { version: optional(number) },
    answer: json(both(storedMachine, object(label))),
    refusals: ['nothing-to-do', 'not-so', 'stale', 'unknown-id'],
  }),
  redo: endpoint('post /machines/{id}/redo', {
    summary: 'Make a change again that was undone, the one that led to a version or else the last',
    params: ofMachine,
    query: { version: optional(number) },
    answer: json(both(storedMachine, object(label))),
    refusals: ['nothing-to-do', 'not-so', 'stale', 'unknown-id'],
  }),
};
