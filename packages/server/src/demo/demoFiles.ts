import Joi from 'joi';
import { readdir } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { line } from '@jolly/core/text/plainText';
import type { NamedText } from '@jolly/core/formats/catalogueFiles';
import { readMachineFile } from '@jolly/core/formats/machineFile';
import { readYaml } from '@jolly/core/formats/readYaml';
import { bedMapSchema } from '@jolly/core/machine/bedMap';
import type { Machine } from '@jolly/core/machine/machine';
import { type Job, jobSchema } from '@jolly/core/ripple/job';
import { ENTRY_KINDS, type EntryKind } from '@jolly/contract/endpoints/machines';
import type { CalibrationToRecord } from '@jolly/contract/endpoints/calibrations';
import { namedTexts, readBefore } from '../files/readBefore';

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

/** A machine of the demo with what is told of its past, and the job it is in the middle of, if it has one. */
export interface DemoMachine {
  machine: Machine;
  entries: DemoEntry[];
  measured: DemoMeasured[];
  job?: Job;
}

const MACHINES = 'catalogue/demo';
const JOBS = 'catalogue/demo/jobs';
const HISTORY = 'catalogue/history.yaml';

async function demoFiles(root: string): Promise<NamedText[]> {
  const inFolder = async (folder: string) =>
    (await readdir(join(root, folder)))
      .filter((name) => name.endsWith('.yaml'))
      .map((name) => join(folder, name));
  return namedTexts(root, [...(await inFolder(MACHINES)), ...(await inFolder(JOBS)), HISTORY]);
}

/** @throws {Error} for a mistake in one of the files: they are ours */
function readFiles(files: NamedText[]): DemoMachine[] {
  const inFolder = (folder: string) => files.filter(({ path }) => dirname(path) === folder);
  const nameOf = ({ path }: NamedText) => basename(path, '.yaml');
  const histories = files
    .filter(({ path }) => path === HISTORY)
    .map((file) => sound(file, readYaml<History>(file.text, historySchema)));
  const jobs = new Map(
    inFolder(JOBS).map((file) => [nameOf(file), sound(file, readYaml<Job>(file.text, jobSchema()))]),
  );
  return inFolder(MACHINES).map((file) => {
    const machine = sound(file, readMachineFile(file.text));
    const job = jobs.get(machine.id);
    return {
      machine,
      entries: histories.flatMap(({ machines }) => machines[machine.id] ?? []),
      measured: histories.flatMap((history) => history.measured[machine.id] ?? []),
      ...(job && { job }),
    };
  });
}

function sound<T>({ path }: NamedText, read: { value: T } | { problems: readonly unknown[] }): T {
  if ('problems' in read) throw new Error(`${path}: ${JSON.stringify(read.problems[0])}`);
  return read.value;
}

/** The demo's machines from the installed files. */
export const { load: loadDemo, keep: keepDemo } = readBefore<DemoMachine[]>({
  kept: 'dist/demo.json',
  files: demoFiles,
  read: readFiles,
});
