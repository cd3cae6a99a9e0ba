import Joi from 'joi';
import joiToJson from 'joi-to-json';
import { LONGEST_YAML } from '@jolly/core/formats/readYaml';
import { check } from '@jolly/core/checks/checks';
import { derive } from '@jolly/core/settings/derive';
import { line, lines } from '@jolly/core/text/plainText';
import { proofSteps } from '@jolly/core/bringup/proofs';
import { resolve } from '@jolly/core/machine/facts';
import { type Machine, machineSchema } from '@jolly/core/machine/machine';
import { writeMachineFile } from '@jolly/core/formats/machineFile';
import { boardOf } from '../board/virtualBoard';
import { type Context, factsOr422, machineOr404 } from '../context';
import { listBuilds } from '../sql/builds';
import { addEdit, listEdits } from '../sql/edits';
import { listDues } from '../sql/dues';
import { addEntry, listEntries } from '../sql/entries';
import { openJob } from '../sql/jobs';
import { findImage } from '../sql/images';
import { addMachine, listMachines, saveMachine, type StoredMachine } from '../sql/machines';
import { proofsOf } from '../sql/proofs';
import { ApiError } from './apiError';
import type { Endpoint } from './endpoint';
import { idParams } from './params';

/** How many logbook lines are listed at most. */
const ENTRIES = 1000;

export function machineEndpoints(context: Context): Endpoint[] {
  const { db } = context;
  return [
    {
      method: 'get',
      path: '/catalogue',
      summary: 'Boards, chips, parts and kits',
      run: () => context.catalogue,
    },
    {
      method: 'get',
      path: '/schemas/machine',
      summary: 'JSON Schema of machine/1',
      run: () => joiToJson(machineSchema, 'json') as object,
    },
    {
      method: 'get',
      path: '/machines',
      summary: 'The shelf: every machine with what runs on it and what is open',
      run: async () => Promise.all((await listMachines(db)).map((stored) => plate(context, stored))),
    },
    {
      method: 'post',
      path: '/machines',
      summary: 'Add a machine from a machine file',
      body: Joi.object({ file: Joi.string().max(LONGEST_YAML).required() }),
      run: async ({ body }) => {
        const machine = await readOr422(context, (body as { file: string }).file);
        factsOr422(context, machine);
        if (!(await addMachine(db, machine, context.now())))
          throw new ApiError(409, 'id-taken', `there is already a machine "${machine.id}"`, { path: 'id' });
        await addEntry(db, machine.id, {
          at: context.now(),
          kind: 'note',
          summary: 'Added from a machine file',
        });
        return machineOr404(context, machine.id);
      },
    },
    {
      method: 'get',
      path: '/machines/{id}',
      summary: 'One machine and its version',
      params: idParams,
      run: ({ params }) => machineOr404(context, params['id']!),
    },
    {
      method: 'put',
      path: '/machines/{id}',
      summary: 'Save a machine over the version it was made from',
      params: idParams,
      body: Joi.object({
        version: Joi.number().integer().min(1).required(),
        machine: machineSchema.required(),
        label: line(300),
      }),
      run: ({ params, body }) => save(context, params['id']!, body as SaveBody),
    },
    {
      method: 'get',
      path: '/machines/{id}/file',
      summary: 'The machine file (YAML)',
      params: idParams,
      raw: true,
      run: async ({ params, reply }) => {
        const { machine } = await machineOr404(context, params['id']!);
        reply.type('text/yaml').attachment(`${machine.id}.yaml`).send(writeMachineFile(machine));
      },
    },
    {
      method: 'get',
      path: '/machines/{id}/entries',
      summary: 'The logbook, newest first',
      params: idParams,
      run: async ({ params }) => {
        await machineOr404(context, params['id']!);
        return listEntries(db, params['id']!, ENTRIES);
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/entries',
      summary: 'Write a note of your own into the logbook',
      params: idParams,
      body: Joi.object({ summary: lines(500).trim().min(1).required() }),
      run: async ({ params, body }) => {
        await machineOr404(context, params['id']!);
        const { summary } = body as { summary: string };
        await addEntry(db, params['id']!, { at: context.now(), kind: 'note', summary });
        return listEntries(db, params['id']!, ENTRIES);
      },
    },
  ];
}

async function readOr422({ reading }: Context, file: string): Promise<Machine> {
  const read = await reading.read('machineFile', file);
  if ('value' in read) return read.value;
  const first = read.problems[0]!;
  throw new ApiError(422, 'bad-file', `line ${first.line}, column ${first.column}: ${first.message}`, {
    path: first.path,
    problems: read.problems,
  });
}

interface SaveBody {
  version: number;
  machine: Machine;
  /** What the change is called; a change without a name cannot be undone. */
  label?: string;
}

/** Saves a machine with the change that led to it. A stale save is told what stands there now. */
async function save(
  context: Context,
  id: string,
  { version, machine, label }: SaveBody,
): Promise<StoredMachine> {
  const before = await machineOr404(context, id);
  if (machine.id !== id)
    throw new ApiError(400, 'bad-value', `"machine.id" must stay "${id}"`, { path: 'machine.id' });
  factsOr422(context, machine);
  const at = context.now();
  const saved = await context.db.transaction(async (db) => {
    const stored = await saveMachine(db, machine, version, at);
    if (stored && label)
      await addEdit(db, id, { label, before: before.machine, after: machine, version: stored.version, at });
    return stored;
  });
  if (saved) return saved;
  const edits = await listEdits(context.db, id);
  throw new ApiError(409, 'stale', 'this machine was changed elsewhere since you opened it', {
    version: before.version,
    current: before,
    changes: edits.filter((edit) => edit.version > version && !edit.undone).map((edit) => edit.label),
  });
}

/** What the shelf shows of a machine. */
async function plate(context: Context, { machine, version, changedAt }: StoredMachine): Promise<unknown> {
  const resolved = resolve(machine, context.catalogue);
  if ('problems' in resolved) return { machine, version, changedAt, problems: resolved.problems };
  const { facts } = resolved;
  const findings = check(facts, derive(facts));
  const board = await boardOf(context, facts);
  const image = board.imageHash ? await findImage(context.db, board.imageHash) : undefined;
  const proofs = board.imageHash ? await proofsOf(context.db, machine.id, board.imageHash) : [];
  const [lastBuild] = await listBuilds(context.db, machine.id, 1);
  const job = await openJob(context.db, machine.id);
  const count = (severity: string) =>
    findings.filter((finding) => finding.severity === severity && finding.waived === undefined).length;
  return {
    machine,
    version,
    changedAt,
    boardName: facts.board.name,
    unguarded: findings.filter(({ id }) => id === 'heat.guard-off').map(({ what }) => what),
    findings: { stop: count('stop'), mend: count('mend'), question: count('question'), note: count('note') },
    ...(image?.header && { image: image.header }),
    proofs,
    stepsToProve: proofSteps(facts).length,
    ...(lastBuild && { lastBuild }),
    due: (await listDues(context.db, machine.id)).length,
    ...(job && { job: { title: job.job.title, state: job.state } }),
  };
}
