import type { Kit } from './kit';

/** Whether a board refused a line for this reason of its kit: in words, or without long replies by its place in the list. */
export function refusedFor({ messages }: Pick<Kit, 'messages'>, name: string, problem: string): boolean {
  const place = messages.findIndex((message) => message.name === name);
  const said = messages[place]?.say;
  return said !== undefined && [`error: ${said}`, `error: ${place + 1}`].includes(problem);
}
