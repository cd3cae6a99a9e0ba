import type { Kit } from './kit';

/**
 * The name under which a kit lists why its board refused (`error: …`) or stopped (`stopped: X …`): in words, or without
 * long replies by its place in the list. Undefined where the kit does not list it.
 */
export function reasonOf({ messages }: Pick<Kit, 'messages'>, problem: string): string | undefined {
  const said = /^(?:error|stopped): (.*)$/.exec(problem)?.[1];
  if (said === undefined) return undefined;
  // A stop begins with what it is about: an axis, a heater, the probe.
  const texts = [said, said.replace(/^\S+ /, '')];
  return messages.find(({ say }, place) => texts.some((text) => text === say || text === `${place + 1}`))
    ?.name;
}
