import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { generateApi } from 'swagger-typescript-api';
import ts from 'typescript';
import { afterAll, describe, expect, it } from 'vitest';
import { serverForTests, throwAway } from './fixtures/server';

const server = serverForTests();
const folder = mkdtempSync(join(tmpdir(), 'jolly-client-'));
afterAll(() => throwAway(folder));

/** What a stranger writes over a client that was made out of the description of the API. */
const USE = `
import { Api, type Machine } from './Api.js';
export async function rename(baseUrl: string, id: string, name: string) {
  const api = new Api({ baseUrl }).api;
  const { machine, version } = (await api.machine(id)).data;
  const renamed: Machine = { ...machine, name };
  const saved = (await api.saveMachine(id, { version, machine: renamed, label: 'Renamed from elsewhere' })).data;
  return [saved.machine.name, saved.version - version, saved.machine.kit.id.length > 0];
}
export async function refused(baseUrl: string, id: string): Promise<string> {
  return new Api({ baseUrl }).api.machine(id).then(() => 'found', (refusal: { error: { error: { code: string } } }) => refusal.error.error.code);
}
`;

const OPTIONS: ts.CompilerOptions = {
  strict: true,
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ES2022,
  moduleResolution: ts.ModuleResolutionKind.Bundler,
  lib: ['lib.es2022.d.ts', 'lib.dom.d.ts', 'lib.dom.iterable.d.ts'],
  types: [],
};

/** What the compiler has against files, each with the name of the one it is in; it writes them as JavaScript. */
function complaints(files: Readonly<Record<string, string>>): string[][] {
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
  const program = ts.createProgram(
    Object.keys(files).map((name) => join(folder, name)),
    OPTIONS,
  );
  program.emit();
  return ts
    .getPreEmitDiagnostics(program)
    .map(({ file, messageText }) => [
      basename(file?.fileName ?? ''),
      ts.flattenDiagnosticMessageText(messageText, ' '),
    ]);
}

describe('a client that another tool makes of the description of the API', () => {
  it('type-checks, knows the fields of a machine, saves one, and hears refusals', async () => {
    const spec = (await server.call('GET', '/openapi.json')).body as object;
    const made = await generateApi({ spec: spec as never, httpClientType: 'fetch', silent: true });
    const client = made.files[0]?.fileContent ?? '';
    const wrong = USE.replace('machine.kit.id.length', 'machine.kit.color');
    expect(complaints({ 'Api.ts': client, 'use.ts': USE, 'wrong.ts': wrong })).toEqual([
      ['wrong.ts', expect.stringContaining("'color' does not exist") as unknown],
    ]);
    writeFileSync(join(folder, 'package.json'), '{"type":"module"}');
    const use = (await import(pathToFileURL(join(folder, 'use.js')).href)) as {
      rename: (base: string, id: string, name: string) => Promise<unknown>;
      refused: (base: string, id: string) => Promise<string>;
    };
    expect(await use.rename(server.address(), 'dunlin', 'Dunlin the second')).toEqual(['Dunlin the second', 1, true]); // prettier-ignore
    expect((await server.call('GET', '/machines/dunlin')).body).toMatchObject({ machine: { name: 'Dunlin the second' } }); // prettier-ignore
    expect(await use.refused(server.address(), 'nobody')).toBe('not-found');
  });
});
