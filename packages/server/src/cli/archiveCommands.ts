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
import { errorCode } from '../data/errorCode';
import { listMachines } from '../sql/machines';
import { badInput, type Call, EXIT, readWords } from './command';

/** `export FILE [--machine ID] [--of own|demo]`: a machine, or the whole shelf, as one archive. */
export async function exportCommand(call: Call): Promise<number> {
  const { values, rest, flags } = readWords(call.words, ['machine', 'of']);
  const [file] = rest;
  if (file === undefined || rest.length > 1)
    return badInput('export FILE [--machine ID] [--of own|demo] [--json]');
  return withData(call, values.get('of'), async (context) => {
    const shelf = (await listMachines(context.db)).map(({ machine }) => machine.id);
    const wanted = values.get('machine');
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
    console.log(flags.has('json') ? JSON.stringify({ file, machines: ids }) : `${file}: ${ids.join(', ')}`);
    return EXIT.fine;
  });
}

/** `import FILE [--as-another | --replace] [--of own|demo]`: takes an archive in. */
export async function importCommand(call: Call): Promise<number> {
  const { values, rest, flags } = readWords(call.words, ['of']);
  const [file] = rest;
  if (file === undefined || rest.length > 1)
    return badInput('import FILE [--as-another | --replace] [--of own|demo] [--json]');
  return withData(call, values.get('of'), async (context) => {
    const archive = await openArchive(resolve(file));
    try {
      const plan = await planOf(context, archive);
      const different = plan.filter(({ state }) => state === 'different');
      const choice: Choice | undefined = flags.has('as-another')
        ? 'another'
        : flags.has('replace')
          ? 'replace'
          : undefined;
      if (different.length > 0 && choice === undefined)
        return badInput(`different here: ${different.map(({ id }) => id).join(', ')}; with --as-another they are taken in beside, with --replace what stands here is lost for them`); // prettier-ignore
      const choices = Object.fromEntries(
        different.map(({ id }): [string, Choice] => [id, choice ?? 'leave']),
      );
      const taken = await takeArchive(context, archive, choices);
      const same = plan.filter(({ state }) => state === 'same').map(({ id }) => id);
      if (flags.has('json')) console.log(JSON.stringify({ taken, same }));
      else console.log(`taken in: ${taken.join(', ') || 'nothing'}${same.length > 0 ? `; the same already: ${same.join(', ')}` : ''}`); // prettier-ignore
      return EXIT.fine;
    } finally {
      await archive.close();
    }
  });
}

const UNREACHABLE: Readonly<Record<string, string>> = {
  ENOENT: 'is not there', EACCES: 'may not be read or written', EISDIR: 'is a folder', ENOTDIR: 'lies in no folder', ENOSPC: 'does not fit: the disk is full',
}; // prettier-ignore

/** Why a file of the call cannot be read or written, in a sentence; undefined for any other error. */
function unreachable(error: unknown): string | undefined {
  const why = UNREACHABLE[errorCode(error) ?? ''];
  const path = error instanceof Error && 'path' in error ? String(error.path) : '';
  return why && path ? `${path.replace(/\.part$/, '')} ${why}` : undefined;
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
    const why = unreachable(error);
    if (why) return badInput(why);
    if (!(error instanceof DataProblem)) throw error;
    console.error(`${error.message}.`);
    return EXIT.stopped;
  } finally {
    for (const undo of opened.reverse()) await undo();
  }
}
