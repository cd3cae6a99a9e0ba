import { whyOf } from '@jolly/core/text/whyOf';
import { parentPort } from 'node:worker_threads';
import { READERS, type ReaderName } from './readers';

export interface ReaderTask {
  id: number;
  name: ReaderName;
  input: unknown;
}
export type ReaderAnswer = { id: number; output: unknown } | { id: number; error: string };

if (!parentPort) throw new Error('the reader runs in a thread of its own');
const server = parentPort;
server.on('message', ({ id, name, input }: ReaderTask) => {
  void answerTo(id, name, input).then((answer) => server.postMessage(answer));
});

async function answerTo(id: number, name: ReaderName, input: unknown): Promise<ReaderAnswer> {
  try {
    // Each reader is asked with its own input.
    return { id, output: await READERS[name](input as never) };
  } catch (error) {
    return { id, error: whyOf(error) };
  }
}
