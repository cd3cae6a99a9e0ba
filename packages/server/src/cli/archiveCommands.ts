import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { Refusal } from '@jolly/contract/refusal';
import { openArchive } from '../archive/openArchive';
import { type Choice, planOf, takeArchive } from '../archive/takeArchive';
import { writeArchive } from '../archive/writeArchive';
import { type Context, openContext } from '../context';
import { DataProblem, onDisk } from '../data/dataProblem';
import { takeHold } from '../data/holder';
import { paths } from '../paths';
import { startReading } from '../reading/reading';
import { openDb } from '../sql/db';
import { listMachines } from '../sql/machines';
import { badInput, type Call, type Command, EXIT, JSON_FLAG, type Option } from './command';

const OF: Option = { value: 'own|demo', help: 'your own data, or the demo’s; own where nothing is said' };

export const exportCommand: Command = {
  does: 'a machine, or the whole shelf, as one archive',
  takes: ['FILE'],
  options: { machine: { value: 'ID', help: 'this machine alone' }, of: OF, json: JSON_FLAG },
  run: exportTo,
};

async function exportTo(call: Call): Promise<number> {
  const [file = ''] = call.words;
  return withData(call, call.value('of'), async (context) => {
    const shelf = (await listMachines(context.db)).map(({ machine }) => machine.id);
    const wanted = call.value('machine');
    if (wanted !== undefined && !shelf.includes(wanted)) return badInput(`there is no machine "${wanted}" on the shelf; there are ${shelf.join(', ') || 'none'}`); // prettier-ignore
    if (shelf.length === 0) return badInput('the shelf is empty');
    const ids = wanted === undefined ? shelf : [wanted];
    // Whole or not at all: under its own name only once it is.
    const partial = `${resolve(file)}.part`;
    try {
      await writeArchive(context, ids, createWriteStream(partial));
      await rename(partial, resolve(file));
    } finally {
      await rm(partial, { force: true });
    }
    console.log(call.has('json') ? JSON.stringify({ file, machines: ids }) : `${file}: ${ids.join(', ')}`);
    return EXIT.fine;
  });
}

export const importCommand: Command = {
  does: 'an archive, taken in',
  takes: ['FILE'],
  options: {
    'as-another': { help: 'machines that are different here are taken in beside' },
    replace: { help: 'machines that are different here are lost for those of the archive' },
    of: OF,
    json: JSON_FLAG,
  },
  run: importFrom,
};

async function importFrom(call: Call): Promise<number> {
  const [file = ''] = call.words;
  if (call.has('as-another') && call.has('replace')) return badInput('import: --as-another and --replace do not go together'); // prettier-ignore
  return withData(call, call.value('of'), async (context) => {
    const archive = await openArchive(resolve(file));
    try {
      const plan = await planOf(context, archive);
      const different = plan.filter(({ state }) => state === 'different');
      const choice: Choice | undefined = call.has('as-another')
        ? 'another'
        : call.has('replace')
          ? 'replace'
          : undefined;
      if (different.length > 0 && choice === undefined)
        return badInput(`different here: ${different.map(({ id }) => id).join(', ')}; with --as-another they are taken in beside, with --replace what stands here is lost for them`); // prettier-ignore
      const choices = Object.fromEntries(
        different.map(({ id }): [string, Choice] => [id, choice ?? 'leave']),
      );
      const taken = await takeArchive(context, archive, choices);
      const same = plan.filter(({ state }) => state === 'same').map(({ id }) => id);
      if (call.has('json')) console.log(JSON.stringify({ taken, same }));
      else console.log(`taken in: ${taken.join(', ') || 'nothing'}${same.length > 0 ? `; the same already: ${same.join(', ')}` : ''}`); // prettier-ignore
      return EXIT.fine;
    } finally {
      await archive.close();
    }
  });
}

/** Opens a data folder for as long as something is done with it; no server may hold it. */
async function withData(
  { root, data }: Call,
  which = 'own',
  run: (context: Context) => Promise<number>,
): Promise<number> {
  if (which !== 'own' && which !== 'demo') return badInput(`--of is "own" or "demo", not "${which}"`);
  const folder = join(data, which);
  const now = () => new Date();
  const opened: (() => unknown)[] = [];
  try {
    return await onDisk(folder, async () => {
      const at = paths(root, folder);
      const hold = await takeHold(folder, now());
      opened.push(() => hold.release());
      const db = await openDb({ folder: at.database, migrations: at.migrations, template: at.emptyDatabase });
      opened.push(() => db.close());
      const reading = startReading(at.readerWorker);
      opened.push(() => reading.close());
      return run(await openContext({ root, data: folder, demo: which === 'demo', now }, db, { reading, replaying: reading })); // prettier-ignore
    });
  } catch (error) {
    if (error instanceof Refusal) return badInput(error.message);
    if (!(error instanceof DataProblem)) throw error;
    console.error(`${error.message}.`);
    return EXIT.stopped;
  } finally {
    for (const undo of opened.reverse()) await undo();
  }
}
