import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { Script } from 'node:vm';

/** The program's file beside this one. Its name holds the hash of its text: what was kept of another never fits it. */
declare const PROGRAM: string;

/**
 * Runs the program with what was compiled of it when it was built (scripts/build.mjs): to compile it anew takes a third of
 * a second at every start. What another version of Node kept is refused by the engine, and everything is compiled then.
 */
const file = join(import.meta.dirname, PROGRAM);
const kept = `${file}.compiled`;
const script = new Script(
  `(function (exports, require, module, __filename, __dirname) {${readFileSync(file, 'utf8')}\n})`,
  { filename: file, ...compiled() },
);
// What the text above evaluates to.
const program = script.runInThisContext() as (...given: unknown[]) => void;
const module = { exports: {} };
program(module.exports, createRequire(file), module, file, dirname(file));

// By then everything that a start needs is compiled.
if (process.env['JOLLY_KEEP_COMPILED'] !== undefined)
  process.once('exit', () => writeFileSync(kept, script.createCachedData()));

function compiled(): { cachedData?: Buffer } {
  try {
    return { cachedData: readFileSync(kept) };
  } catch {
    return {}; // A build that could not keep it: everything is compiled at each start.
  }
}
