import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeClient, pathOf, type Send } from '../src/client';
import { CONTRACT } from '../src/contract';
import type { AnyEndpoint } from '../src/endpoint';
import { openApi } from '../src/openApi';
import { REFUSALS, Refusal } from '../src/refusal';

/** A server that answers everything with one thing, and notes what it was asked. */
function answering(body: unknown, status = 200) {
  const asked: { path: string; options: RequestInit }[] = [];
  const send: Send = (path, options) => {
    asked.push({ path, options });
    const text = typeof body === 'string' ? body : JSON.stringify(body);
    return Promise.resolve(new Response(text, { status }));
  };
  return { client: makeClient(send), asked };
}
const due = {
  id: 'pid-bed',
  title: 'PID of the bed',
  because: 'another heater',
  since: '2026-11-25T08:00:00Z',
};

describe('the client', () => {
  it('asks by method, path and body as the contract says', async () => {
    const { client, asked } = answering([due]);
    await client.settleDue({ id: 'plover', due: 'pid-bed' });
    await client.dues({ id: 'plover' });
    expect(asked.map(({ path, options }) => `${options.method} ${path}`)).toEqual([
      'POST /api/machines/plover/dues/pid-bed/done',
      'GET /api/machines/plover/dues',
    ]);
    const { client: writer, asked: written } = answering({});
    await writer.putStore({ id: 'plover' }, { store: 'AAAA' });
    expect(written[0]?.options.body).toBe('{"store":"AAAA"}');
  });

  it('sends no body where none is asked for, whatever it is called with', async () => {
    const { client, asked } = answering([]);
    const machines = client.machines as (context: unknown) => Promise<unknown>;
    await machines({ queryKey: ['machines'] });
    expect(asked[0]).toEqual({ path: '/api/machines', options: { method: 'GET' } });
  });

  it('gives back what the contract lets through, with what a newer server says beside it', async () => {
    expect(await answering([due]).client.dues({ id: 'plover' })).toEqual([due]);
    expect(await answering([{ ...due, more: 1 }]).client.dues({ id: 'plover' })).toHaveLength(1);
  });

  it.each([
    ['another shape', { dues: [] }],
    ['a field that is missing', [{ ...due, title: undefined }]],
    ['a field of another type', [{ ...due, since: 4 }]],
    ['a page of a proxy', '<!doctype html><p>Sign in'],
    ['nothing', ''],
  ])('never takes %s for an answer', async (_name, body) => {
    await expect(answering(body).client.dues({ id: 'plover' })).rejects.toThrow(
      /the answer of \/api\/machines\/plover\/dues is not what it should be/,
    );
  });

  it('never takes the text of a refusal for bytes', async () => {
    const refused = answering({ error: { code: 'not-found', message: 'there is no image "ab"' } }, 404);
    await expect(refused.client.image({ hash: 'ab' })).rejects.toThrow('there is no image "ab"');
    await expect(answering('gone', 404).client.image({ hash: 'ab' })).rejects.toThrow('answered 404');
  });

  it('passes a refusal on with its code and what whoever asked needs to go on', async () => {
    const { client } = answering({ error: { code: 'stale', message: 'changed', version: 3 } }, 409);
    const refusal = await client.undo({ id: 'plover' }).catch((error: unknown) => error);
    expect(refusal).toBeInstanceOf(Refusal);
    expect(refusal).toMatchObject({ code: 'stale', status: 409, message: 'changed', more: { version: 3 } });
  });

  it.each([
    ['a code that nobody knows', { error: { code: 'toString', message: 'x' } }],
    ['no code', { error: { message: 'x' } }],
    ['half a refusal', { error: 'x' }],
  ])('%s is a failure of the server, in words', async (_name, body) => {
    await expect(answering(body, 418).client.dues({ id: 'plover' })).rejects.toMatchObject({
      code: 'internal',
      message: 'the server answered 418',
    });
  });

  it('puts any name into a path so that it leads nowhere else', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (name) => {
        const { pathname, search } = new URL(pathOf('drawer', { id: 'plover', name }), 'http://localhost');
        const rest = pathname.slice('/api/machines/plover/drawer/'.length);
        // A name that is only dots is no name; it is refused by the pattern of file names.
        fc.pre(!/^\.{1,2}$/.test(name));
        expect(search).toBe('');
        expect(decodeURIComponent(rest)).toBe(name);
      }),
    );
  });

  it('asks behind the question mark only for what was given', () => {
    const kept = { id: 'plover', kind: 'image', name: 'a b&c.bin' } as const;
    expect(pathOf('keep', kept)).toBe('/api/machines/plover/kept/image?name=a+b%26c.bin');
    expect(pathOf('keep', { ...kept, source: 'link' })).toMatch(/&source=link$/);
  });
});

describe('the document', () => {
  const { paths } = openApi() as {
    paths: Record<string, Record<string, { parameters: { name: string }[]; responses: object }>>;
  };
  it.each(Object.entries<AnyEndpoint>(CONTRACT))('describes %s with every refusal', (_name, endpoint) => {
    const described = paths[`/api${endpoint.path}`]?.[endpoint.method];
    expect(described?.parameters.map(({ name }) => name)).toEqual([
      ...Object.keys(endpoint.params as object),
      ...Object.keys(endpoint.query as object),
    ]);
    for (const code of endpoint.refusals)
      expect(described?.responses).toHaveProperty([String(REFUSALS[code]), 'description']);
  });
});
