import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** What a process holds at a moment; undefined where the system does not tell. */
export interface Held {
  megabytes: number;
  descriptors: number;
  /** Bytes of its data folder, in MB, and files that are half written. */
  disk: number;
  partial: number;
}

function heldBy(pid: number, data: string): Held | undefined {
  try {
    const pages = Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]);
    const files = readdirSync(data, { recursive: true }).map((name) => join(data, String(name)));
    const sizes = files.map((path) => statSync(path, { throwIfNoEntry: false })?.size ?? 0);
    return {
      megabytes: (pages * 4096) / 2 ** 20,
      descriptors: readdirSync(`/proc/${pid}/fd`).length,
      disk: sizes.reduce((sum, size) => sum + size, 0) / 2 ** 20,
      partial: files.filter((path) => path.endsWith('.part')).length,
    };
  } catch {
    return undefined;
  }
}

/** The same, once connections that nobody uses any more have had their time to close. */
export async function heldAtRest(pid: number, data: string): Promise<Held | undefined> {
  let held = heldBy(pid, data);
  for (let i = 0; i < 8 && held; i += 1) {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    const now = heldBy(pid, data);
    held = now;
  }
  return held;
}

/** What grew beyond what a long day may bring. */
export function grown(before: Held, after: Held): string[] {
  return [
    ...(after.megabytes > Math.max(before.megabytes * 3, before.megabytes + 400) ? ['memory'] : []),
    ...(after.descriptors > before.descriptors + 20 ? ['descriptors'] : []),
    ...(after.partial > 0 ? ['half written files'] : []),
  ];
}

export const inWords = ({ megabytes, descriptors, disk }: Held): string =>
  `${megabytes.toFixed(0)} MB, ${descriptors} descriptors, ${disk.toFixed(0)} MB on disk`;
