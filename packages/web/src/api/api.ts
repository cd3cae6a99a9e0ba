import type { CardOutcome } from '@jolly/bench';
import type {
  Catalogue,
  Diagnostic,
  Finding,
  GeneratedFile,
  ImageHeader,
  Machine,
  ProofStep,
  Severity,
  Sizes,
} from '@jolly/core';

/** An answer of the server that is not a success, in its own words. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly more: { path?: string; findings?: Finding[]; version?: number },
  ) {
    super(message);
  }
}

export interface StoredMachine {
  machine: Machine;
  version: number;
  changedAt: string;
}
export interface Proof {
  step: string;
  outcome: 'proven' | 'failed';
  evidence: string[];
  at: string;
}
export interface Plate extends StoredMachine {
  boardName?: string;
  problems?: { path: string; message: string }[];
  findings?: Record<Severity, number>;
  image?: ImageHeader;
  proofs?: Proof[];
  stepsToProve?: number;
  lastBuild?: Build;
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
  kind: 'note' | 'settings' | 'build' | 'flash' | 'proof' | 'calibration';
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

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  const reply = await fetch(`/api${path}`, {
    method,
    ...(body !== undefined && {
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
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

/** Every way into the server that the interface uses. */
export const api = {
  catalogue: () => call<Catalogue>('GET', '/catalogue'),
  machines: () => call<Plate[]>('GET', '/machines'),
  machine: (id: string) => call<StoredMachine>('GET', `/machines/${id}`),
  addMachine: (file: string) => call<StoredMachine>('POST', '/machines', { file }),
  saveMachine: (machine: Machine, version: number) =>
    call<StoredMachine>('PUT', `/machines/${machine.id}`, { machine, version }),
  entries: (id: string) => call<Entry[]>('GET', `/machines/${id}/entries`),
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
  image: async (hash: string) => new Uint8Array(await (await fetch(`/api/images/${hash}`)).arrayBuffer()),
};
