import { join } from 'node:path';
import { checkData, type DataFinding, fallBack, isEmpty } from '../data/checkData';
import { DataProblem, onDisk } from '../data/dataProblem';
import { takeHold } from '../data/holder';
import { mendDemo } from '../demo/mendDemo';
import { paths } from '../paths';
import { badInput, type Call, EXIT, readWords } from './command';

const WORDS = { whole: 'whole ', mended: 'mended', broken: 'BROKEN' };

/** `check-data [demo|own] [--fall-back COPY] [--json]`: says what of the kept data is whole, and mends what it can. */
export async function checkDataCommand({ words, root, data }: Call): Promise<number> {
  const { flags, values, rest } = readWords(words, ['fall-back']);
  const [which = 'own'] = rest;
  if (which !== 'own' && which !== 'demo')
    return badInput(`check-data looks at "own" (what ./jolly start keeps) or "demo", not at "${which}"`);
  const folder = join(data, which);
  if (await isEmpty(folder)) return badInput(`nothing is kept in ${folder} yet`);
  try {
    return await onDisk(folder, () =>
      look(folder, root, which === 'demo', values.get('fall-back'), flags.has('json')),
    );
  } catch (error) {
    if (!(error instanceof DataProblem)) throw error;
    console.error(`${error.message}.`);
    return EXIT.stopped;
  }
}

async function look(
  folder: string,
  root: string,
  demo: boolean,
  copy: string | undefined,
  json: boolean,
): Promise<number> {
  const now = new Date();
  const hold = await takeHold(folder, now);
  try {
    const at = paths(root, folder);
    const fell = copy === undefined ? undefined : await fallBack(folder, at, copy, now);
    const findings = await checkData(folder, at, demo ? mendDemo(root, folder, now) : undefined);
    tell(findings, fell?.aside, json);
    return findings.some(({ state }) => state === 'broken') ? EXIT.stopped : EXIT.fine;
  } finally {
    await hold.release();
  }
}

function tell(findings: DataFinding[], aside: string | undefined, json: boolean): void {
  if (json) return console.log(JSON.stringify({ findings, ...(aside && { aside }) }));
  if (aside) console.log(`fell back; put aside: ${aside}`);
  for (const { what, state, says } of findings) console.log(`${WORDS[state]}  ${what}: ${says}`);
}
