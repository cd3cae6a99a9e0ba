import type { Culprit, Diagnostic } from '@jolly/core/build/diagnostic';
import type { GeneratedFile } from '@jolly/core/build/generatedFile';
import type { Sizes } from '@jolly/core/build/sizes';
import { machine, sentMachine } from '../machine';
import { IMAGE_FORMATS } from '@jolly/core/image/imageFile';
import { bytes, endpoint, events, json } from '../endpoint';
import { hash, id, number, ofMachine, shortLine } from '../params';
import {
  anyOf,
  settingValue,
  both,
  count,
  flag,
  known,
  list,
  moment,
  object,
  oneOf,
  optional,
  text,
  type TypeOf,
} from '../shape';

/** How many builds are listed at most. */
export const MOST_BUILDS = 100;

/** What can be saved of a build beside its image. */
export const BUILD_PARTS = ['machine', 'generated', 'map', 'log'] as const;
export type BuildPart = (typeof BUILD_PARTS)[number];

/** What a build that ended well has made. */
export const doneBuild = object({
  imageHash: text,
  buildId: text,
  /** What the boards that take it call themselves; missing in builds of before this was kept. */
  target: optional(text),
  sizes: known<Sizes>('flashBytes', 'ramBytes', 'stackBytes', 'bySource'),
  compiled: count,
  /** Settings whose values differ from the build before this one. */
  changed: list(text),
});
export type DoneBuild = TypeOf<typeof doneBuild>;

/** What a person says of a build. */
const marks = object({ label: shortLine(60, true), pinned: flag });
export type BuildMarks = TypeOf<typeof marks>;

/** What a build that failed is known by. */
const failedBuild = object({
  state: oneOf('failed'),
  failed: known<Diagnostic>('file', 'line', 'message'),
  /** Settings whose values differ from the last good build; missing where there is none. */
  changed: optional(list(text)),
  /** The smallest part of them that breaks it, once it was looked for. */
  culprit: optional(known<Culprit>('builds')),
});
export type FailedBuild = Omit<TypeOf<typeof failedBuild>, 'state'>;

const begun = both(
  object({ id: text, machineId: text, machineVersion: count, startedAt: moment }),
  object({ label: text, pinned: flag, /** When its image was cleared away. */ clearedAt: optional(moment) }),
);
const ended = object({ endedAt: moment });

/** One run of the compiler. */
export const build = anyOf(
  both(begun, object({ state: oneOf('running') })),
  both(begun, both(ended, both(object({ state: oneOf('done') }), doneBuild))),
  both(begun, both(ended, failedBuild)),
  both(begun, both(ended, object({ state: oneOf('cancelled', 'interrupted') }))),
);
export type Build = TypeOf<typeof build>;

const buildInput = object({
  machine,
  settings: list(object({ key: text, value: settingValue, source: text })),
  files: list(known<GeneratedFile>('path', 'lines')),
});
export type BuildInput = TypeOf<typeof buildInput>;

export const builds = {
  builds: endpoint('get /machines/{id}/builds', {
    summary: 'Builds of a machine, newest first',
    params: ofMachine,
    answer: json(list(build)),
  }),
  startBuild: endpoint('post /machines/{id}/builds', {
    summary: 'Start a build from the machine as it is stored',
    params: ofMachine,
    answer: json(build),
    refusals: ['unknown-id', 'stopped', 'ending'],
  }),
  trial: endpoint('post /machines/{id}/trial', {
    summary: 'The image of a machine as it is given, to be tried on the bench; nothing of it is kept',
    params: ofMachine,
    body: sentMachine,
    answer: bytes,
    refusals: ['unknown-id', 'not-built', 'busy', 'ending'],
  }),
  build: endpoint('get /builds/{id}', { summary: 'One build', params: { id }, answer: json(build) }),
  buildLog: endpoint('get /builds/{id}/log', {
    summary: 'What the compiler said',
    params: { id },
    answer: json(object({ log: text })),
  }),
  buildInput: endpoint('get /builds/{id}/input', {
    summary: 'What a build was made from: machine, settings and generated files',
    params: { id },
    answer: json(buildInput),
  }),
  buildFile: endpoint('get /builds/{id}/file/{part}', {
    summary:
      'A part of a build as a file, read back before it is sent: machine file, generated files, linker map, log',
    params: { id, part: oneOf(...BUILD_PARTS) },
    answer: bytes,
    refusals: ['not-so'],
  }),
  markBuild: endpoint('put /builds/{id}/marks', {
    summary: 'Label a build, and pin it so that its image is never cleared away',
    params: { id },
    body: marks,
    answer: json(build),
  }),
  clearable: endpoint('get /machines/{id}/clearable', {
    summary:
      'Builds whose images may be cleared away: older than the newest so many, not pinned, never flashed',
    params: ofMachine,
    query: { keep: number },
    answer: json(list(build)),
  }),
  clearBuilds: endpoint('post /machines/{id}/clear', {
    summary: 'Clear away the images and maps of builds; what they were made from stays',
    params: ofMachine,
    body: object({ keep: count, ids: list(text, MOST_BUILDS) }),
    answer: json(list(build)),
    refusals: ['not-so'],
  }),
  cancelBuild: endpoint('post /builds/{id}/cancel', {
    summary: 'Cancel a running build',
    params: { id },
    answer: json(build),
    refusals: ['not-running'],
  }),
  buildEvents: endpoint('get /builds/{id}/events', {
    summary: 'Progress of a build as server-sent events: `progress`, then `ended`',
    params: { id },
    answer: events,
  }),
  findCulprit: endpoint('post /builds/{id}/culprit', {
    summary: 'Find the smallest change since the last good build that breaks this one, by building',
    params: { id },
    answer: json(build),
    refusals: ['not-so', 'ending'],
  }),
  cancelCulprit: endpoint('post /builds/{id}/culprit/cancel', {
    summary: 'Stop looking for the change that breaks a build',
    params: { id },
    answer: json(build),
    refusals: ['not-running'],
  }),
  culpritEvents: endpoint('get /builds/{id}/culprit/events', {
    summary: 'Progress of the search as server-sent events: `progress`, then `ended`',
    params: { id },
    answer: events,
  }),
  image: endpoint('get /images/{hash}', {
    summary: 'The bytes of an image',
    params: { hash },
    answer: bytes,
  }),
  imageFile: endpoint('get /images/{hash}/file/{format}', {
    summary: 'An image as a file: .bin, Intel HEX or UF2, at its address, read back before it is sent',
    params: { hash, format: oneOf(...IMAGE_FORMATS) },
    answer: bytes,
    refusals: ['not-so', 'no-room'],
  }),
};
