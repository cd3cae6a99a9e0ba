import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import Joi from 'joi';
import { line } from '@jolly/core/text/plainText';
import { readYaml } from '@jolly/core/formats/readYaml';
import { type Job, jobSchema } from '@jolly/core/ripple/job';
import { ENTRY_KINDS, type EntryKind } from '@jolly/contract/endpoints/machines';
import { factsOf } from '../app/known';
import type { Context } from '../context';
import { loadDemoMachines } from '../files/catalogue';
import { addEntry } from '../sql/entries';
import { addJob } from '../sql/jobs';
import { addMachine } from '../sql/machines';
import { keep } from '../app/keep';

interface DemoEntry {
  days_ago: number;
  kind: EntryKind;
  summary: string;
}
interface History {
  jolly: string;
  machines: Record<string, DemoEntry[]>;
}

const historySchema = Joi.object<History>({
  jolly: Joi.valid('history/1').required(),
  machines: Joi.object()
    .pattern(
      Joi.string(),
      Joi.array().items(
        Joi.object({
          days_ago: Joi.number().min(0).required(),
          kind: Joi.valid(...ENTRY_KINDS).required(),
          summary: line(200).required(),
        }),
      ),
    )
    .required(),
});
const DAY_MS = 86_400_000;

/** Puts the demo's machines and their history where they are not yet; what is there stays as it is. */
export async function layDemo(context: Context): Promise<void> {
  const read = readYaml<History>(
    await readFile(join(context.root, 'catalogue/history.yaml'), 'utf8'),
    historySchema,
  );
  if ('problems' in read) throw new Error(`catalogue/history.yaml: ${JSON.stringify(read.problems[0])}`);
  for (const machine of await loadDemoMachines(context.root)) {
    await context.db.transaction(async (inside) => {
      if (!(await addMachine(inside, machine, context.now()))) return;
      for (const { days_ago: daysAgo, kind, summary } of read.value.machines[machine.id] ?? []) {
        await addEntry(inside, machine.id, {
          at: new Date(context.now().getTime() - daysAgo * DAY_MS),
          kind,
          summary,
        });
      }
      const job = await demoJob(context.root, machine.id);
      if (job)
        await addJob(inside, machine.id, job, new Date(context.now().getTime() - JOB_DAYS_AGO * DAY_MS));
    });
    // Nothing kept can be taken away again: what is missing here was lost when a first start was ended.
    for (const name of EARLIER_IMAGES[machine.id] ?? []) {
      const bytes = new Uint8Array(
        await readFile(join(context.root, 'catalogue/demo/drawer', machine.id, name)),
      );
      await keep(context, machine.id, factsOf(context, machine), {
        kind: 'image',
        name,
        bytes,
        source: 'file',
      });
    }
  }
}

const JOB_DAYS_AGO = 1;
/** Images that somebody kept before; Plover's still lies in the drawer. */
const EARLIER_IMAGES: Record<string, string[]> = {
  bittern: ['bittern-h6-maker.bin'],
  dunlin: ['dunlin-s4-maker.uf2'],
};

/** The job a demo machine is in the middle of, if it has one. */
async function demoJob(root: string, machineId: string): Promise<Job | undefined> {
  const text = await readFile(join(root, 'catalogue/demo/jobs', `${machineId}.yaml`), 'utf8').catch(
    () => undefined,
  );
  if (text === undefined) return undefined;
  const read = readYaml<Job>(text, jobSchema);
  if ('problems' in read) throw new Error(`jobs/${machineId}.yaml: ${JSON.stringify(read.problems[0])}`);
  return read.value;
}
