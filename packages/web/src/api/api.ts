import type { CardOutcome } from '@jolly/bench';
import type { Board } from '@jolly/core/board/board';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Change } from '@jolly/core/ripple/change';
import type { Diagnostic } from '@jolly/core/build/diagnostic';
import type { DialectLine } from '@jolly/core/report/dialect';
import type { Finding, Severity } from '@jolly/core/finding/finding';
import type { GeneratedFile } from '@jolly/core/build/generatedFile';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import type { Job } from '@jolly/core/ripple/job';
import type { KeptKind } from '@jolly/core/image/wayBack';
import type { Machine } from '@jolly/core/machine/machine';
import type { ProofStep } from '@jolly/core/bringup/proofs';
import type { Reason } from '@jolly/core/ripple/advice';
import type { Sizes } from '@jolly/core/build/sizes';
import { cut } from '@jolly/core/text/plainText';

import { reach } from './presence';

/** An answer of the server that is not a success, in its own words. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly more: {
      path?: string;
      findings?: Finding[];
      version?: number;
      /** What stands there now, and what led to it, when a save came too late. */
      current?: StoredMachine;
      changes?: string[];
    },
  ) {
    super(message);
  }
}

export interface StoredMachine {
  machine: Machine;
  version: number;
  changedAt: string;
}
export interface StoredEdit {
  id: number;
  label: string;
  version: number;
  at: string;
  undone: boolean;
}
export interface Proof {
  step: string;
  outcome: 'proven' | 'failed';
  evidence: string[];
  at: string;
}
export interface Plate extends StoredMachine {
  boardName?: string;
  /** Guards that are off, set aside or not: said on every screen. */
  unguarded?: string[];
  problems?: { path: string; message: string }[];
  findings?: Record<Severity, number>;
  image?: ImageHeader;
  proofs?: Proof[];
  stepsToProve?: number;
  lastBuild?: Build;
  job?: { title: string; state: JobState };
  /** How many things finished jobs left to be measured. */
  due?: number;
}
export interface DoneBuild {
  imageHash: string;
  buildId: string;
  sizes: Sizes;
  compiled: number;
  changed: string[];
}
export type Build = { id: string; machineId: string; machineVersion: number; startedAt: string } & (
  | { state: 'running' }
  | ({ state: 'done'; endedAt: string } & DoneBuild)
  | { state: 'failed'; endedAt: string; failed: Diagnostic }
  | { state: 'cancelled' | 'interrupted'; endedAt: string }
);
export interface BuildInput {
  machine: Machine;
  settings: { key: string; value: unknown; source: string }[];
  files: GeneratedFile[];
}
export interface StoredCard {
  format: 'FAT32' | 'exFAT';
  sizeGb: number;
  files: { name: string; imageHash: string }[];
}
export interface StoredBoard {
  imageHash: string | null;
  image?: ImageHeader;
  store: string;
  namesTaken: string[];
  card: StoredCard | null;
}
export interface Flash {
  id: string;
  imageHash: string | null;
  fileName: string;
  at: string;
  outcome: CardOutcome;
}
export interface Entry {
  id: number;
  at: string;
  kind: 'note' | 'job' | 'kept' | 'settings' | 'build' | 'flash' | 'proof' | 'calibration';
  summary: string;
  detail: {
    buildId?: string;
    imageHash?: string;
    changed?: string[];
    evidence?: string[];
    outcome?: CardOutcome;
  };
}
export interface Proofs {
  imageHash: string | null;
  steps: ProofStep[];
  proofs: Proof[];
}

export type JobState = 'open' | 'paused' | 'done' | 'abandoned';
export interface StoredJob {
  id: number;
  state: JobState;
  version: number;
  openedAt: string;
  job: Job;
}
export interface JobToSave extends Pick<Job, 'title' | 'changes' | 'taken' | 'done'> {
  version: number;
}
export interface JobOfMachine {
  job: StoredJob | null;
  /** The last finished job, while its end can be taken back. */
  finished: { title: string; endedAt: string } | null;
}
export interface JobAnswer {
  job: StoredJob;
  machine: StoredMachine;
  kept: string[];
}
export interface Kept {
  id: number;
  kind: KeptKind;
  name: string;
  board: { id: string; revision: string };
  hash: string;
  bytes: number;
  format: 'bin' | 'hex' | 'uf2' | 'text';
  source: 'file' | 'board' | 'link';
  verdict: 'fits' | 'doubtful' | 'empty';
  evidence: string[];
  at: string;
}
export interface WayBack {
  kept: Kept[];
  /** Which board lies on the virtual bench, and whether it is the one a way back is wanted of. */
  bench: { board: string; wanted: string; isWanted: boolean };
  findings: Finding[];
  waivers: { check: string; because: string; at: string }[];
  /** Files of the demo. */
  drawer: string[];
}
/** Something to be measured again that a finished job left behind. */
export interface Due {
  id: string;
  title: string;
  because: string;
  since: string;
}
export interface Pin {
  x: number;
  y: number;
  label: string;
  header?: string;
}
export interface StoredPhoto {
  id: number;
  board: { id: string; revision: string };
  title: string;
  width: number;
  height: number;
  pins: Pin[];
  at: string;
}

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  const reply = await reach(`/api${path}`, {
    method,
    ...(body !== undefined && {
      headers: { 'Content-Type': body instanceof Blob ? 'application/octet-stream' : 'application/json' },
      body: body instanceof Blob ? body : JSON.stringify(body),
    }),
  });
  const answer = (await reply.json().catch(() => ({}))) as {
    error?: { code: string; message: string; path?: string };
  };
  if (reply.ok) return answer as T;
  const {
    code = 'unreachable',
    message = `the server answered ${reply.status}`,
    ...more
  } = answer.error ?? {};
  throw new ApiProblem(reply.status, code, message, more);
}

/** Bytes, and never the text of a refusal in their place. */
async function bytes(path: string): Promise<Response> {
  const reply = await reach(path);
  if (reply.ok) return reply;
  const { error } = (await reply.json().catch(() => ({}))) as { error?: { code: string; message: string } };
  throw new ApiProblem(
    reply.status,
    error?.code ?? 'unreachable',
    error?.message ?? `the server answered ${reply.status}`,
    {},
  );
}

/** Every way into the server that the interface uses. */
export const api = {
  catalogue: () => call<Catalogue>('GET', '/catalogue'),
  machines: () => call<Plate[]>('GET', '/machines'),
  machine: (id: string) => call<StoredMachine>('GET', `/machines/${id}`),
  addMachine: (file: string) => call<StoredMachine>('POST', '/machines', { file }),
  saveMachine: (machine: Machine, version: number, label: string) =>
    call<StoredMachine>('PUT', `/machines/${machine.id}`, { machine, version, label: cut(label, 300) }),
  edits: (id: string) => call<StoredEdit[]>('GET', `/machines/${id}/edits`),
  edit: (id: string, edit: number) =>
    call<StoredEdit & { before: Machine; after: Machine }>('GET', `/machines/${id}/edits/${edit}`),
  goBack: (id: string, way: 'undo' | 'redo') =>
    call<StoredMachine & { label: string }>('POST', `/machines/${id}/${way}`),
  entries: (id: string) => call<Entry[]>('GET', `/machines/${id}/entries`),
  addNote: (id: string, summary: string) => call<unknown>('POST', `/machines/${id}/entries`, { summary }),
  builds: (id: string) => call<Build[]>('GET', `/machines/${id}/builds`),
  startBuild: (id: string) => call<Build>('POST', `/machines/${id}/builds`),
  cancelBuild: (buildId: string) => call<Build>('POST', `/builds/${buildId}/cancel`),
  buildLog: (buildId: string) => call<{ log: string }>('GET', `/builds/${buildId}/log`),
  buildInput: (buildId: string) => call<BuildInput>('GET', `/builds/${buildId}/input`),
  board: (id: string) => call<StoredBoard>('GET', `/machines/${id}/board`),
  putCard: (id: string, card: StoredCard | null) =>
    call<StoredBoard>('PUT', `/machines/${id}/board/card`, { card }),
  putStore: (id: string, store: string) => call<unknown>('PUT', `/machines/${id}/board/store`, { store }),
  flash: (id: string) =>
    call<{ outcome: CardOutcome; board: StoredBoard }>('POST', `/machines/${id}/flashes`),
  flashes: (id: string) => call<Flash[]>('GET', `/machines/${id}/flashes`),
  proofs: (id: string) => call<Proofs>('GET', `/machines/${id}/proofs`),
  prove: (id: string, step: string, outcome: Proof['outcome'], evidence: string[]) =>
    call<Proofs>('POST', `/machines/${id}/proofs`, { step, outcome, evidence }),
  job: (id: string) => call<JobOfMachine>('GET', `/machines/${id}/job`),
  reopenJob: (id: string) => call<{ job: StoredJob }>('POST', `/machines/${id}/job/reopen`),
  dues: (id: string) => call<Due[]>('GET', `/machines/${id}/dues`),
  settleDue: (id: string, due: string) => call<Due[]>('POST', `/machines/${id}/dues/${due}/done`),
  startJob: (
    id: string,
    job: { title: string; reason: Reason; overruled?: string; changes: Change[]; taken: string[] },
  ) => call<JobAnswer>('POST', `/machines/${id}/job`, job),
  saveJob: (id: string, job: JobToSave) => call<JobAnswer>('PUT', `/machines/${id}/job`, job),
  setJobState: (id: string, state: JobState, putBack: boolean, because?: string) =>
    call<{ machine: StoredMachine }>('POST', `/machines/${id}/job/state`, {
      state,
      putBack,
      ...(because && { because }),
    }),
  wayBack: (id: string) => call<WayBack>('GET', `/machines/${id}/kept`),
  keep: (id: string, kind: KeptKind, name: string, bytes: Blob, source: 'file' | 'link' = 'file') =>
    call<{ kept: Kept; already: boolean }>(
      'POST',
      `/machines/${id}/kept/${kind}?name=${encodeURIComponent(name)}&source=${source}`,
      bytes,
    ),
  keepFromBoard: (id: string) =>
    call<{ kept: Kept; already: boolean }[]>('POST', `/machines/${id}/kept-from-board`),
  keptText: async (id: string, kept: number) => (await bytes(keptUrl(id, kept))).text(),
  restore: (id: string, kept: number) => call<unknown>('POST', `/machines/${id}/restores`, { kept }),
  waive: (id: string, check: string, because: string) =>
    call<unknown>('POST', `/machines/${id}/waivers`, { check, because }),
  drawer: async (id: string, name: string) =>
    (await bytes(`/api/machines/${id}/drawer/${encodeURIComponent(name)}`)).blob(),
  photos: (id: string) => call<StoredPhoto[]>('GET', `/machines/${id}/photos`),
  addPhoto: (id: string, title: string, picture: Blob) =>
    call<StoredPhoto>('POST', `/machines/${id}/photos?title=${encodeURIComponent(title)}`, picture),
  savePhoto: (id: string, photo: number, title: string, pins: Pin[]) =>
    call<StoredPhoto>('PUT', `/machines/${id}/photos/${photo}`, { title, pins }),
  /** Takes it out of sight; it can be put back until the moment answered. */
  removePhoto: (id: string, photo: number) =>
    call<{ photo: StoredPhoto; until: string }>('DELETE', `/machines/${id}/photos/${photo}`),
  putPhotoBack: (id: string, photo: number) =>
    call<StoredPhoto>('POST', `/machines/${id}/photos/${photo}/back`),
  forgetPhoto: (id: string, photo: number) => call<unknown>('POST', `/machines/${id}/photos/${photo}/forget`),
  teach: (line: DialectLine) => call<unknown>('POST', '/dialects/own/lines', { line }),
  addBoard: (file: string) => call<Board>('POST', '/boards', { file }),
  image: async (hash: string) => new Uint8Array(await (await bytes(`/api/images/${hash}`)).arrayBuffer()),
};

/** Where the bytes of something kept can be had. */
export const keptUrl = (id: string, kept: number) => `/api/machines/${id}/kept/${kept}/bytes`;
export const photoUrl = (id: string, photo: number) => `/api/machines/${id}/photos/${photo}/bytes`;
export const boardFileUrl = (board: Board) => `/api/boards/${board.id}/${board.revision}/file`;
