import { errorCode } from './errorCode';
/** Why the kept data cannot be worked with, in a sentence that says what to do. Nothing was changed. */
export class DataProblem extends Error {}

const BECAUSE: Record<string, (where: string) => string> = {
  ENOSPC: (where) => `the disk that holds ${where} is full: free some room, then start again`,
  EDQUOT: (where) =>
    `your share of the disk that holds ${where} is used up: free some room, then start again`,
  EROFS: (where) => `${where} can only be read: make its disk writable, or name another folder in JOLLY_DATA`,
  EACCES: (where) =>
    `${where} may not be written by you: change its rights, or name another folder in JOLLY_DATA`,
  EPERM: (where) =>
    `${where} may not be written by you: change its rights, or name another folder in JOLLY_DATA`,
  ENOTDIR: (where) => `${where} is no folder: name another one in JOLLY_DATA`,
};

/** Runs what needs the disk; what the disk refuses becomes a sentence. */
export async function onDisk<T>(where: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const because = BECAUSE[errorCode(error) ?? ''];
    throw because ? new DataProblem(because(where)) : error;
  }
}
