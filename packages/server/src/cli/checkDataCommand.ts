import { join } from 'node:path';
import { checkData, type DataFinding, fallBack, isEmpty } from '../data/checkData';
import { DataProblem, onDisk } from '../data/dataProblem';
import { takeHold } from '../data/holder';
import { mendDemo } from '../demo/mendDemo';
import { paths } from '../paths';
import { badInput, type Call, type Command, EXIT, JSON_FLAG } from './command';

const WORDS = { whole: 'whole ', mended: 'mended', broken: 'BROKEN' };

export const checkDataCommand: Command = {
  does: 'whether what is kept is whole; mends what it can',
  takes: ['[own|demo]'],
  options: {
    'fall-back': { value: 'COPY', help: 'puts this copy in the place of what stands, which is kept aside' },
    json: JSON_FLAG,
  },
  run: checkKept,
};

async function checkKept({ words: [which = 'own'], value, has, root, data }: Call): Promise<number> {
  if (which !== 'own' && which !== 'demo')
    return badInput(`check-data looks at "own" (what ./jolly start keeps) or "demo", not at "${which}"`);
  const folder = join(data, which);
  if (await isEmpty(folder)) return badInput(`nothing is kept in ${folder} yet`);
  try {
    return await onDisk(folder, () => look(folder, root, which === 'demo', value('fall-back'), has('json')));
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
