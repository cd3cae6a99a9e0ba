import { errorCode } from '../data/errorCode';
import { join } from 'node:path';
import { DataProblem } from '../data/dataProblem';
import { start } from '../start';
import { badInput, type Command, EXIT, readWords } from './command';

/** Serves until it is told to end. */
export function serveCommand({
  demo,
  folder,
  port: usual,
}: {
  demo: boolean;
  folder: string;
  port: number;
}): Command {
  return async ({ words, root, data }) => {
    const { values } = readWords(words, ['port']);
    const port = Number(values.get('port') ?? usual);
    if (!Number.isInteger(port) || port < 0 || port > 65535)
      return badInput('--port must be a whole number from 0 to 65535');
    try {
      const started = await start({ root, data: join(data, folder), port, demo });
      console.log(`Jolly Cog is at ${started.address}  (end it with Ctrl-C)`);
      await new Promise((resolve) =>
        ['SIGINT', 'SIGTERM'].forEach((signal) => process.once(signal, resolve)),
      );
      await started.stop();
      return process.exit(EXIT.fine);
    } catch (error) {
      if (error instanceof DataProblem) {
        console.error(`Jolly Cog cannot start: ${error.message}.`);
        return process.exit(EXIT.stopped);
      }
      if (errorCode(error) !== 'EADDRINUSE') throw error;
      return badInput(`port ${port} is in use, perhaps by another Jolly Cog; try --port ${port + 10}`);
    }
  };
}
