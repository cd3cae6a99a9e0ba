import { ask, choose, measure, type Procedure, show, tell, wait } from '@jolly/core/bringup/procedure';
import { GAVE_UP } from '@jolly/core/proofs/proof';
import { describe, expect, it } from 'vitest';
import { type Hands, runProcedure } from '../src/runProcedure';

const question = { text: 'Which?', about: 'x', choices: [{ id: 'a', label: 'A' }] };
const length = { text: 'How long?', label: 'It is', unit: 'mm', range: [0, 9] as const, about: 'x' };
const picture = { kind: 'filament', askedMm: 100, markMm: 120 } as const;

function* everything(): Procedure<unknown[]> {
  yield* tell('Look.', { do: 'press', part: 'x', label: 'hold' });
  const said = yield* ask('M105', (lines) => (lines.length > 1 ? picture : undefined));
  const chosen = yield* choose(question);
  const read = yield* measure(length);
  yield* show(picture);
  const waited = yield* wait();
  return [said.lines, chosen, read, waited.problem];
}

function hands(changes: Partial<Hands> = {}) {
  const log: string[] = [];
  const all: Hands = {
    ask: (line, heard) => {
      log.push(line);
      heard?.(['one']);
      heard?.(['one', 'two']);
      return Promise.resolve({ lines: ['two', 'done'] });
    },
    tell: (text, work) => log.push(`${text} ${work?.label}`),
    choose: ({ text }) => Promise.resolve((log.push(text), 'a')),
    measure: ({ text }) => Promise.resolve((log.push(text), 2.5)),
    show: ({ kind }) => void log.push(kind),
    moment: () => Promise.resolve(void log.push('a moment')),
    givenUp: () => false,
    ...changes,
  };
  return { all, log };
}

describe('a procedure that is carried out', () => {
  it('has each thing done in turn, and goes on with what came of it', async () => {
    const { all, log } = hands();
    expect(await runProcedure(everything(), all)).toEqual([['two', 'done'], { chosen: 'a' }, { read: 2.5 }, undefined]); // prettier-ignore
    // What is drawn of an answer is drawn as its lines come in.
    expect(log).toEqual(['Look. hold', 'M105', 'filament', 'Which?', 'How long?', 'filament', 'a moment']);
  });

  it('ends what a person gives up on, wherever that is', async () => {
    const gone = { ended: { lines: [], problem: GAVE_UP } };
    const nobody = hands({ choose: () => Promise.resolve(undefined), measure: () => Promise.resolve(undefined), givenUp: () => true }); // prettier-ignore
    expect((await runProcedure(everything(), nobody.all)).slice(1)).toEqual([gone, gone, GAVE_UP]);
    const { measure: _measure, show: _show, ...blind } = hands().all;
    expect((await runProcedure(everything(), blind)).slice(1)).toEqual([{ chosen: 'a' }, gone, undefined]);
  });
});
