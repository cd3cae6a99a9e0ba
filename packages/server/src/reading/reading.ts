import { Worker } from 'node:worker_threads';
import { Refusal } from '@jolly/contract/refusal';
import type { ReaderAnswer } from './readerWorker';
import type { Input, Output, ReaderName } from './readers';

/** Reads bytes from outside away from the server's own thread. */
export interface Reading {
  /** @throws {Refusal} too-hard when reading takes longer than the limit */
  read<K extends ReaderName>(name: K, input: Input<K>): Promise<Output<K>>;
  close(): Promise<void>;
}

/** Some twenty times what the largest file takes that is allowed. */
const LIMIT_S = 10;
const MOST_HEAP_MB = 512;

/** One thread reads, one file after another; one that takes too long is ended and the next gets a fresh thread. */
export function startReading(file: URL, limitS = LIMIT_S): Reading {
  let worker: Worker | undefined;
  let turn: Promise<unknown> = Promise.resolve();
  let nextId = 1;

  const thread = () => {
    if (worker) return worker;
    const made = new Worker(file, { resourceLimits: { maxOldGenerationSizeMb: MOST_HEAP_MB } });
    made.on('exit', () => worker === made && (worker = undefined));
    // An error is told to whoever waits (see below); without a listener it would end the server.
    made.on('error', () => undefined);
    made.unref();
    return (worker = made);
  };

  async function ask(name: ReaderName, input: unknown): Promise<unknown> {
    const id = nextId++;
    const at = thread();
    let timer: NodeJS.Timeout | undefined;
    let listen: ((answer: ReaderAnswer) => void) | undefined;
    let died: (() => void) | undefined;
    try {
      return await new Promise((resolve, reject) => {
        timer = setTimeout(() => reject(tooHard(`longer than ${limitS} s`)), limitS * 1000);
        died = () => reject(tooHard(`more than ${MOST_HEAP_MB} MB of memory`));
        listen = (answer) => {
          if (answer.id !== id) return;
          if ('error' in answer) reject(new Error(answer.error));
          else resolve(answer.output);
        };
        at.on('message', listen);
        at.once('exit', died);
        at.postMessage({ id, name, input });
      });
    } catch (error) {
      if (error instanceof Refusal) await at.terminate();
      throw error;
    } finally {
      clearTimeout(timer);
      if (listen) at.off('message', listen);
      if (died) at.off('exit', died);
    }
  }

  return {
    read<K extends ReaderName>(name: K, input: Input<K>): Promise<Output<K>> {
      const mine = turn.then(() => ask(name, input));
      turn = mine.catch(() => undefined);
      // A reader answers what it was asked.
      return mine as Promise<Output<K>>;
    },
    async close() {
      await worker?.terminate();
    },
  };
}

const tooHard = (what: string) =>
  new Refusal('too-hard', `reading this file took ${what}, and was ended: it is not what it should be`);
