import type { CFile } from '@jolly/core/build/generatedFile';
import { EFFORT_KEY } from '@jolly/core/fit/chooseFit';
import type { Facts } from '@jolly/core/machine/facts';
import type { Settings } from '@jolly/core/settings/setting';
import { write } from '@jolly/core/build/write';
import { type PromisedGuards, promisedGuards } from '@jolly/core/build/imageGuards';
import { type Effort, EFFORTS } from './recipe';

export const effortOf = (settings: Settings): Effort =>
  EFFORTS.find((effort) => effort === settings.get(EFFORT_KEY)?.value) ?? 'by-source';

/** All that decides the bytes of an image. */
export interface BuildInput {
  /** C sources and headers of the kit, by file name. */
  sources: ReadonlyMap<string, string>;
  generated: CFile[];
  stackBytes: number;
  effort: Effort;
  kitVersion: string;
  target: string;
  loadAddress: number;
  /** Name put into the image's header. */
  name: string;
  /** What the linked image must hold for the build to be done. */
  promised: PromisedGuards;
}

/** What decides the bytes of a machine's image. */
export function buildInput(
  facts: Facts,
  settings: Settings,
  sources: ReadonlyMap<string, string>,
): BuildInput {
  const route = facts.board.routes[0];
  return {
    sources,
    generated: write(facts, settings),
    stackBytes: facts.kit.stack_bytes,
    effort: effortOf(settings),
    kitVersion: facts.kit.version,
    target: route.target,
    loadAddress: route.load_address,
    promised: promisedGuards(facts.kit, settings),
    name: String(settings.get('machine.name')?.value ?? facts.machine.name),
  };
}
