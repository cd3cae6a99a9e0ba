import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { calibrationTitles } from '@jolly/core/calibration/calibrationTools';
import { measuredWith } from '@jolly/core/calibration/upkeep';
import { addCalibration } from '../sql/calibrations';
import { factsOf } from '../app/known';
import type { Context } from '../context';
import { addEntry } from '../sql/entries';
import { addJob } from '../sql/jobs';
import { listKept } from '../sql/kept';
import { addMachine, demoIds, findMachine, markDemo } from '../sql/machines';
import { keep } from '../app/keep';
import { type DemoMachine, loadDemo } from './demoFiles';

const DAY_MS = 86_400_000;

/** Puts the demo's machines and their history where they are not yet; what is there stays as it is. */
export async function layDemo(context: Context): Promise<void> {
  for (const each of await loadDemo(context.root))
    if (!(await isLaid(context, each.machine.id))) await lay(context, each);
  // Machines of the demo come with files in a drawer, wherever they were laid.
  if ((await demoIds(context.db)).length > 0) context.drawer = join(context.root, DRAWER);
}

/** Whether a machine is there with everything that is kept of it. */
async function isLaid({ db, images }: Context, id: string): Promise<boolean> {
  if (!(await findMachine(db, id))) return false;
  const kept = await listKept(db, id);
  const bytes = (EARLIER_IMAGES[id] ?? []).map((name) => {
    const hash = kept.find((entry) => entry.name === name)?.hash;
    return hash === undefined ? undefined : images.get(hash);
  });
  return (await Promise.all(bytes)).every((found) => found !== undefined);
}

async function lay(context: Context, { machine, entries, measured, job }: DemoMachine): Promise<void> {
  const { id } = machine;
  const daysAgo = (days: number) => new Date(context.now().getTime() - days * DAY_MS);
  await context.db.transaction(async (inside) => {
    if (!(await addMachine(inside, machine, context.now()))) return;
    await markDemo(inside, id);
    for (const { days_ago: days, kind, summary } of entries)
      await addEntry(inside, id, { at: daysAgo(days), kind, summary });
    const facts = factsOf(context, machine);
    const titles = calibrationTitles(facts);
    for (const { days_ago: days, with: other, ...found } of measured) {
      const { calibration, words, evidence } = found;
      const at = daysAgo(days);
      const rests = { ...measuredWith(facts, calibration), ...other };
      await addCalibration(inside, id, { ...found, wentTo: WENT_TO }, { at, measuredWith: rests });
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

const DRAWER = 'catalogue/demo/drawer';
const JOB_DAYS_AGO = 1;
/** Images that somebody kept before; Plover's still lies in the drawer. */
const EARLIER_IMAGES: Record<string, string[]> = {
  bittern: ['bittern-h6-maker.bin'],
  dunlin: ['dunlin-s4-maker.uf2'],
};
