import { spawn } from 'node:child_process';

/** Runs a measure of the browser against a product that runs. @throws {Error} when it ends badly */
export function runScript(script: string, address: string): Promise<void> {
  const child = spawn(process.execPath, [script, address], { stdio: 'inherit' });
  return new Promise((resolve, reject) =>
    child.once('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`${script} ended with ${String(code)}`)),
    ),
  );
}
