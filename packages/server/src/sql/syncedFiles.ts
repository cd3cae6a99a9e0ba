import { NodeFS } from '@electric-sql/pglite/nodefs';
import { fsyncSync } from 'node:fs';

/** How often the database asked for its bytes to be on the disk, since the program began. */
export const syncs = { count: 0 };

interface Stream {
  nfd?: number;
}
interface Module {
  NODEFS: { stream_ops: { fsync?: (stream: Stream) => number } };
}

/**
 * Files in a folder, with the one thing that the usual adapter lacks: when the database asks for a sync, the bytes are
 * on the disk before it goes on. Together with `SYNCED` below, what a commit acknowledges outlives a power cut.
 */
export class SyncedFiles extends NodeFS {
  override async init(...given: Parameters<NodeFS['init']>): ReturnType<NodeFS['init']> {
    const made = await super.init(...given);
    const before = made.emscriptenOpts.preRun ?? [];
    const addSync = (module: unknown) => {
      // A part of the library that it does not describe.
      (module as Module).NODEFS.stream_ops.fsync = ({ nfd }) => {
        if (nfd !== undefined) fsyncSync(nfd);
        syncs.count += 1;
        return 0;
      };
    };
    return {
      ...made,
      // One more of the same functions.
      emscriptenOpts: { ...made.emscriptenOpts, preRun: [...before, addSync] as typeof before },
    };
  }
}

/**
 * The usual start of the database without `-F`, which would leave syncing to chance. Only `fsync` reaches the file
 * system here; the usual `fdatasync` is an empty function in WebAssembly.
 */
export const SYNCED = (usual: readonly string[]): string[] => [
  ...usual.filter((word) => word !== '-F'),
  '-c',
  'wal_sync_method=fsync',
  // A workshop's rows fit into far less than the usual 128 MB, all of which is held from the start.
  '-c',
  'shared_buffers=16MB',
];
