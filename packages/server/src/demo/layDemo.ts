import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import Joi from 'joi';
import { readYaml } from '@jolly/core';
import type { Context } from '../context.js';
import { loadDemoMachines } from '../files/catalogue.js';
import { addEntry, type EntryKind } from '../sql/entries.js';
import { addMachine } from '../sql/machines.js';

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
          kind: Joi.valid('note', 'settings', 'build', 'flash', 'proof', 'calibration').required(),
          summary: Joi.string().max(200).required(),
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
    });
  }
}
