import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import Joi from 'joi';
import { line } from '@jolly/core/text/plainText';
import { readYaml } from '@jolly/core/formats/readYaml';
import { type Job, jobSchema } from '@jolly/core/ripple/job';
import { ENTRY_KINDS, type EntryKind } from '@jolly/contract/endpoints/machines';
import type { CalibrationToRecord } from '@jolly/contract/endpoints/calibrations';
import { calibrationTitles } from '@jolly/core/calibration/calibrationTools';
import { measuredWith } from '@jolly/core/calibration/upkeep';
import { bedMapSchema } from '@jolly/core/machine/bedMap';
import { addCalibration } from '../sql/calibrations';
import { factsOf } from '../app/known';
import type { Context } from '../context';
import { demoMachineIds, loadDemoMachine } from '../files/catalogue';
import { addEntry } from '../sql/entries';
import { addJob } from '../sql/jobs';
import { listKept } from '../sql/kept';
import { addMachine, demoIds, findMachine, markDemo } from '../sql/machines';
import { keep } from '../app/keep';

interface DemoEntry {
  days_ago: number;
  kind: EntryKind;
  summary: string;
}
/** Something measured; `with` says which facts were others then. */
type DemoMeasured = Omit<CalibrationToRecord, 'wentTo'> & { days_ago: number; with?: Record<string, string> };
interface History {
  jolly: string;
  machines: Record<string, DemoEntry[]>;
  measured: Record<string, DemoMeasured[]>;
}

const historySchema = Joi.object<History>({
  jolly: Joi.valid('history/2').required(),
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
  measured: Joi.object()
    .pattern(
      Joi.string(),
      Joi.array().items(
        Joi.object({
          days_ago: Joi.number().min(0).required(),
          calibration: line(40).required(),
          outcome: Joi.valid('found', 'poor', 'done').required(),
          words: line(300).required(),
          evidence: Joi.array().items(line(200)).required(),
          figures: Joi.array()
            .items(Joi.object({ id: line(40), label: line(80), value: Joi.number(), unit: line(20) }))
            .required(),
          map: bedMapSchema(),
          with: Joi.object().pattern(Joi.string(), line(300)),
        }),
      ),
    )
    .required(),
});
const DAY_MS = 86_400_000;

/** Puts the demo's machines and their history where they are not yet; what is there stays as it is. */
export async function layDemo(context: Context): Promise<void> {
  for (const id of await demoMachineIds(context.root))
    if (!(await isLaid(context, id))) await lay(context, id);
  // Machines of the demo come with files in a drawer, wherever they were laid.
  if ((await demoIds(context.db)).length > 0) context.drawer = join(context.root, DRAWER);
}

/** Whether a machine is there with everything that is kept of it; reading its files takes most of a start. */
async function isLaid({ db, images }: Context, id: string): Promise<boolean> {
  if (!(await findMachine(db, id))) return false;
  const kept = await listKept(db, id);
  const bytes = (EARLIER_IMAGES[id] ?? []).map((name) => {
    const hash = kept.find((entry) => entry.name === name)?.hash;
    return hash === undefined ? undefined : images.get(hash);
  });
  return (await Promise.all(bytes)).every((found) => found !== undefined);
}

async function lay(context: Context, id: string): Promise<void> {
  const [machine, history, job] = await Promise.all([
    loadDemoMachine(context.root, id),
    historyOf(context.root, id),
    demoJob(context.root, id),
  ]);
  const daysAgo = (days: number) => new Date(context.now().getTime() - days * DAY_MS);
  await context.db.transaction(async (inside) => {
    if (!(await addMachine(inside, machine, context.now()))) return;
    await markDemo(inside, id);
    for (const { days_ago: days, kind, summary } of history.entries)
      await addEntry(inside, id, { at: daysAgo(days), kind, summary });
    const facts = factsOf(context, machine);
    const titles = calibrationTitles(facts);
    for (const { days_ago: days, with: other, ...measured } of history.measured) {
      const { calibration, words, evidence } = measured;
      const at = daysAgo(days);
      const rests = { ...measuredWith(facts, calibration), ...other };
      await addCalibration(inside, id, { ...measured, wentTo: WENT_TO }, { at, measuredWith: rests });
      await addEntry(inside, id, { at, kind: 'calibration', summary: `${titles.get(calibration)}: ${words}`, detail: { evidence } }); // prettier-ignore
    }
    if (job) await addJob(inside, id, job, daysAgo(JOB_DAYS_AGO));
  });
  // Nothing kept can be taken away again: what is missing here was lost when a first start was ended.
  for (const name of EARLIER_IMAGES[id] ?? []) {
    const bytes = new Uint8Array(await readFile(join(context.root, DRAWER, id, name)));
    await keep(context, id, factsOf(context, machine), { kind: 'image', name, bytes, source: 'file' });
  }
}

/** What was measured at the demo's machines was stored on their boards, before anybody wrote their files. */
const WENT_TO = { file: false, board: true, store: true };

async function historyOf(
  root: string,
  id: string,
): Promise<{ entries: DemoEntry[]; measured: DemoMeasured[] }> {
  const read = readYaml<History>(await readFile(join(root, 'catalogue/history.yaml'), 'utf8'), historySchema);
  if ('problems' in read) throw new Error(`catalogue/history.yaml: ${JSON.stringify(read.problems[0])}`);
  return { entries: read.value.machines[id] ?? [], measured: read.value.measured[id] ?? [] };
}

const DRAWER = 'catalogue/demo/drawer';
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
  const read = readYaml<Job>(text, jobSchema());
  if ('problems' in read) throw new Error(`jobs/${machineId}.yaml: ${JSON.stringify(read.problems[0])}`);
  return read.value;
}
