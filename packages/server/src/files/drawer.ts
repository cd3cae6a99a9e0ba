import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { notFound } from '@jolly/contract/refusal';
import type { Within } from '../context';

/** Names of the demo's files for a machine. */
export async function listDrawer({ drawer }: Pick<Within, 'drawer'>, machineId: string): Promise<string[]> {
  if (!drawer) return [];
  return (await readdir(join(drawer, machineId)).catch(() => [])).sort();
}

/** A file from the demo's drawer. Only names that the folder lists are read: a path is never made from what was asked. */
export async function readDrawer(
  context: Pick<Within, 'drawer'>,
  machineId: string,
  asked: string,
): Promise<Uint8Array> {
  const name = (await listDrawer(context, machineId)).find((entry) => entry === asked);
  if (!name || !context.drawer) throw notFound('file in the drawer', asked);
  return readFile(join(context.drawer, machineId, name));
}
