import { errorCode } from '../data/errorCode';
import { join } from 'node:path';
import { DataProblem } from '../data/dataProblem';
import { start } from '../start';
import { badInput, type Call, type Command, EXIT } from './command';

/** Serves until it is told to end. */
function serveCommand({
  does,
  demo,
  folder,
  port: usual,
}: {
  does: string;
  demo: boolean;
  folder: string;
  port: number;
}): Command {
  const run = async ({ value, root, data }: Call) => {
    const port = Number(value('port') ?? usual);
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
  return { does, takes: [], options: { port: { value: 'N', help: `where it listens; ${usual} where nothing is said` } }, run };
} // prettier-ignore

export const demoCommand = serveCommand({
  does: 'the product with demo data',
  demo: true,
  folder: 'demo',
  port: 4620,
});
export const startCommand = serveCommand({
  does: 'the product with your own data',
  demo: false,
  folder: 'own',
  port: 4621,
});
