import type { Facts, Settings } from '@jolly/core';
import { promisedGuards, write } from '@jolly/core';
import type { BuildInput } from './buildImage.js';

/** All that decides the bytes of a machine's image. */
export function buildInput(
  facts: Facts,
  settings: Settings,
  sources: ReadonlyMap<string, string>,
): BuildInput {
  const route = facts.board.routes[0]!;
  return {
    sources,
    generated: write(facts, settings),
    stackBytes: facts.kit.stack_bytes,
    kitVersion: facts.kit.version,
    target: route.target,
    loadAddress: route.load_address,
    promised: promisedGuards(facts.kit, settings),
    name: String(settings.get('machine.name')?.value ?? facts.machine.name),
  };
}
