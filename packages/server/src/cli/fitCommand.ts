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
import { badInput, type Call, type Command, EXIT, JSON_FLAG } from './command';
import { readMachine } from './readMachine';

export const fitCommand: Command = {
  does: 'what to leave out so that the image fits',
  takes: ['FILE'],
  options: {
    keep: { value: 'KEY,KEY', help: 'features that must stay' },
    worth: { value: 'KEY=N,KEY=N', help: 'what a feature is worth to you, from 0' },
    json: JSON_FLAG,
  },
  more: 'By what each feature is worth; measured, chosen, really built.',
  run: fit,
};

async function fit({ words, value, has, root, data }: Call): Promise<number> {
  const facts = await readMachine(root, words[0] ?? '');
  const keep = new Set(listOf(value('keep')));
  const worth = worthOf(value('worth'));
  if (typeof worth === 'string') return badInput(worth);
  const features = imageFeatures({ kit: facts.kit, settings: derive(facts) });
  const known = new Set(features.filter(({ on }) => on).map(({ key }) => key));
  const stray = [...keep, ...worth.keys()].find((key) => !known.has(key));
  if (stray !== undefined)
    return badInput(`"${stray}" is no feature that is on and can be left out; there are ${[...known].join(', ') || 'none'}`); // prettier-ignore
  const json = has('json');
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
    return 'failed' in outcome ? { failed: outcome.failed.message } : outcome;
  };
  const progress = (doing: string, done: number, total: number) => void (json || console.error(`${done + 1}/${total} ${doing}`)); // prettier-ignore
  const found = await fitImage({ facts, catalogue: await loadCatalogue(root), build, keep, worth, progress }).finally(() => compiler.close()); // prettier-ignore
  if ('cannot' in found) {
    console.log(json ? JSON.stringify(found) : `CANNOT FIT  ${found.cannot}`);
    return EXIT.stopped;
  }
  console.log(json ? JSON.stringify(found) : inWords(found, facts).join('\n'));
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
