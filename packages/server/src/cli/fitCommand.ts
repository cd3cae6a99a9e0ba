import type { Facts } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { imageFeatures } from '@jolly/core/fit/imageFeatures';
import type { Cost } from '@jolly/core/fit/chooseFit';
import { buildImage } from '../build/buildImage';
import { buildInput } from '../build/buildInput';
import { startCompiler } from '../build/compiler';
import { type Fit, fitImage } from '../build/fitImage';
import { folderStore } from '../files/byteStore';
import { loadCatalogue, loadKitSources } from '../files/catalogue';
import { paths } from '../paths';
import { badInput, type Call, EXIT, readWords } from './command';
import { readMachine } from './readMachine';

const USAGE = 'fit FILE [--keep KEY,KEY] [--worth KEY=N,KEY=N] [--json]';

/** `fit FILE`: what to leave out of the image so that it fits, by what each feature is worth; measured, chosen, really built. */
export async function fitCommand({ words, root, data }: Call): Promise<number> {
  const { flags, values, rest } = readWords(words, ['keep', 'worth']);
  if (rest.length !== 1) return badInput(USAGE);
  const read = await readMachine(root, rest[0] ?? '');
  if ('problems' in read) return badInput(read.problems.join('\n'));
  const { facts } = read;
  const keep = new Set(listOf(values.get('keep')));
  const worth = worthOf(values.get('worth'));
  if (typeof worth === 'string') return badInput(worth);
  const features = imageFeatures({ kit: facts.kit, settings: derive(facts) });
  const known = new Set(features.filter(({ on }) => on).map(({ key }) => key));
  const stray = [...keep, ...worth.keys()].find((key) => !known.has(key));
  if (stray !== undefined)
    return badInput(`"${stray}" is no feature that is on and can be left out; there are ${[...known].join(', ') || 'none'}`); // prettier-ignore
  const json = flags.has('json');
  const compiler = startCompiler(paths(root, data).compilerWorker);
  const sources = await loadKitSources(root, facts.kit.id);
  const build = async (given: Facts) => {
    const outcome = await buildImage(buildInput(given, derive(given), sources), {
      compiler,
      cache: folderStore(paths(root, data).objects),
      owner: facts.machine.id,
      signal: new AbortController().signal,
      progress: () => undefined,
    });
    return 'failed' in outcome ? { failed: outcome.failed.message } : { sizes: outcome.sizes };
  };
  const progress = (doing: string, done: number, total: number) => void (json || console.error(`${done + 1}/${total} ${doing}`)); // prettier-ignore
  const fit = await fitImage({ facts, catalogue: await loadCatalogue(root), build, keep, worth, progress }).finally(() => compiler.close()); // prettier-ignore
  if ('cannot' in fit) {
    console.log(json ? JSON.stringify(fit) : `CANNOT FIT  ${fit.cannot}`);
    return EXIT.stopped;
  }
  console.log(json ? JSON.stringify(fit) : inWords(fit, facts).join('\n'));
  return EXIT.fine;
}

const listOf = (text = ''): string[] => text.split(',').filter((word) => word !== '');

function worthOf(text: string | undefined): ReadonlyMap<string, number> | string {
  const pairs = listOf(text).map((pair) => pair.split('='));
  const wrong = pairs.find(([key, number]) => !key || !/^\d+(\.\d+)?$/.test(number ?? ''));
  if (wrong) return `--worth KEY=N: "${wrong.join('=')}" is not a key and a number of 0 or more`;
  return new Map(pairs.map(([key = '', number]) => [key, Number(number)]));
}

function inWords({ before, after, dropped, kept, bound, harder, builds }: Fit, { chip }: Facts): string[] {
  const room = ({ flash, ram }: Cost) =>
    `flash ${flash} of ${chip.flash_bytes} bytes, RAM ${ram} of ${chip.ram_bytes} bytes`;
  const takes = ({ cost: { flash, ram } }: { cost: Cost }) => `${flash} bytes of flash, ${ram} of RAM`;
  return [
    `before: ${room(before)}`,
    ...(harder ? ['HARDER the compiler tries harder: compiler.effort = across-sources'] : []),
    ...dropped.map((one) => `DROP   ${one.key}: ${one.label} (${takes(one)}). ${one.without}`),
    ...kept.map((one) => `KEEP   ${one.key}: ${one.label} (${takes(one)})`),
    ...bound.filter(({ on }) => on).map((one) => `BOUND  ${one.key}: ${one.label}; ${one.because}`),
    dropped.length === 0 && !harder
      ? 'it fits with everything that is on'
      : `after:  ${room(after)}, as built (${builds} builds)`,
  ];
}
