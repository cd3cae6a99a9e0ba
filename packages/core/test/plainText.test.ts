import fc from 'fast-check';
import Joi from 'joi';
import { describe, expect, it } from 'vitest';
import { CalcError } from '../src/calculation/calculation';
import { boardSchema } from '../src/board/board';
import { boardText } from '../src/text/boardText';
import { cComment, cDefine, cFloat, cInteger, cName, cString } from '../src/build/cText';
import { calculations } from '../src/calc/calculations';
import { changeSchema } from '../src/ripple/change';
import { chipSchema } from '../src/board/chip';
import { cut, isWhole, line, lines } from '../src/text/plainText';
import { dialectSchema } from '../src/report/dialect';
import { gcodeRemark } from '../src/slicer/gcodeLine';
import { jobSchema } from '../src/ripple/job';
import { kitSchema } from '../src/kit/kit';
import { machineSchema } from '../src/machine/machine';
import { partSchema } from '../src/parts/part';
import { readMachineFile, writeMachineFile } from '../src/formats/machineFile';
import { demoMachine as demo } from './fixtures/demo';

const anyText = fc.string({ unit: 'binary', maxLength: 60 });
const hostile = fc.oneof(
  anyText,
  fc.string({ unit: fc.constantFrom(...'*/\\?"\'\n\r\t\0;#()=+-@<>&'), maxLength: 20 }),
);

interface Described {
  type?: string;
  keys?: Record<string, Described>;
  items?: Described[];
  matches?: { schema?: Described; then?: Described; otherwise?: Described; switch?: { then: Described }[] }[];
  patterns?: { schema?: Described; rule: Described }[];
  whens?: { then?: Described; otherwise?: Described; switch?: { then: Described }[] }[];
  rules?: { name: string }[];
  allow?: unknown[];
  flags?: { only?: boolean };
}

/** Paths of texts in a schema that have neither a rule for what may stand in them nor a longest length. */
function unruled(schema: Described, path = ''): string[] {
  const rules = (schema.rules ?? []).map(({ name }) => name);
  const ruled = schema.flags?.only || ['pattern', 'base64', 'isoDate'].some((name) => rules.includes(name));
  const own = schema.type === 'string' && !ruled ? [path] : [];
  const below: [string, Described | undefined][] = [
    ...Object.entries(schema.keys ?? {}),
    ...(schema.items ?? []).map((item): [string, Described] => ['#', item]),
    ...(schema.patterns ?? []).map((pattern): [string, Described] => ['*', pattern.rule]),
    ...[...(schema.matches ?? []), ...(schema.whens ?? [])].flatMap(
      (match): [string, Described | undefined][] => [
        ['|', 'schema' in match ? (match.schema as Described) : undefined],
        ['|', match.then],
        ['|', match.otherwise],
        ...(match.switch ?? []).map((entry): [string, Described] => ['|', entry.then]),
      ],
    ),
  ];
  return [...own, ...below.flatMap(([key, entry]) => (entry ? unruled(entry, `${path}.${key}`) : []))];
}

describe('free text', () => {
  it.each(
    Object.entries({
      machineSchema: machineSchema(),
      boardSchema: boardSchema(),
      chipSchema: chipSchema(),
      partSchema: partSchema(),
      kitSchema: kitSchema(),
      dialectSchema: dialectSchema(),
      changeSchema: changeSchema(),
      jobSchema: jobSchema(),
    }),
  )('%s has a rule for every text in it', (_name, schema: Joi.Schema) => {
    expect(unruled(schema.describe() as Described)).toEqual([]);
  });
  it('would be found wherever it stands', () => {
    const text = Joi.string().max(5);
    const hidden = Joi.object({
      a: Joi.array().items(Joi.object().pattern(Joi.string().pattern(/^a/), text)),
      b: Joi.alternatives().conditional('.kind', {
        switch: [{ is: 1, then: text }],
        otherwise: Joi.forbidden(),
      }),
      c: Joi.when('b', { is: 1, then: text, otherwise: Joi.any() }),
      d: Joi.alternatives(Joi.number(), text),
    });
    expect(unruled(hidden.describe() as Described)).toHaveLength(4);
  });
  it('that is printable goes through a machine file unchanged; what is not is refused with its place', () => {
    fc.assert(
      fc.property(hostile, (text) => {
        const machine = { ...demo('plover'), name: text || 'x', note: text || 'x' };
        const fine = !line(40).validate(machine.name).error && !lines(2000).validate(machine.note).error;
        const read = readMachineFile(writeMachineFile(machine as typeof machine));
        return 'value' in read
          ? fine && read.value.name === machine.name
          : !fine && read.problems.every(({ line: at }) => at >= 1);
      }),
      { numRuns: 300 },
    );
  });
  it.each(['a\nb', 'a\0b', 'a\u202eb', 'a\ud800', 'a\u2028b', '\ufeffa'])('%j is no line', (text) => {
    expect(line(40).label('name').validate(text).error?.message).toContain(
      'one line of printable characters',
    );
  });
  it('is cut between characters, never within one', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), fc.nat(20), (text, at) => isWhole(cut(text, at))));
  });
  it('for a board is printable ASCII without the quote that ends a name, and never too long', () => {
    fc.assert(
      fc.property(
        hostile,
        fc.nat(40),
        (text, longest) =>
          /^[ !#-~]*$/.test(boardText(text, longest)) && boardText(text, longest).length <= longest,
      ),
    );
    expect(boardText('Käte')).toBe('Kate');
  });
});

describe('writers escape for themselves', () => {
  it('a comment in C ends where it says, and stays on its line', () => {
    fc.assert(
      fc.property(hostile, (text) => {
        const comment = cComment(text);
        return (
          !/[\r\n\0\u2028\\]/.test(comment) &&
          comment.indexOf('*/') === comment.length - 2 &&
          comment.lastIndexOf('/*') === 0
        );
      }),
    );
  });
  it('a string in C is one literal of plain letters, and means the bytes it was given', () => {
    fc.assert(
      fc.property(anyText.filter(isWhole), (text) => {
        const literal = cString(text);
        if (!/^"(?:[ !#-[\]-~]|\\[0-7]{3})*"$/.test(literal) || literal.includes('?')) return false;
        const bytes = [...literal.slice(1, -1).matchAll(/\\([0-7]{3})|(.)/g)].map(([, octal, letter]) =>
          octal ? parseInt(octal, 8) : letter!.charCodeAt(0),
        );
        return new TextDecoder('utf-8', { ignoreBOM: true }).decode(Uint8Array.from(bytes)) === text;
      }),
    );
  });
  it('numbers and names that are none are refused', () => {
    for (const value of [NaN, Infinity, 1e39]) expect(() => cFloat(value)).toThrow(TypeError);
    for (const value of [0.5, 2 ** 32, -(2 ** 31) - 1]) expect(() => cInteger(value)).toThrow(TypeError);
    for (const name of ['', 'a', 'A B', 'A\n', '1A']) expect(() => cName(name)).toThrow(TypeError);
    expect(cDefine('A', cFloat(1), 'x */ y')).toBe('#define A 1.0f /* x ·/ y */');
  });
  it('a remark in G-code ends with its line', () => {
    fc.assert(fc.property(hostile, (text) => !/[\r\n\u2028\u2029\0]/.test(gcodeRemark(text))));
  });
});

describe('a calculation', () => {
  it.each([
    ['stepsPerMm', { kind: 'belt', fullSteps: 200, microsteps: 16, pitchMm: 5e-324, teeth: 20 }],
    ['relayPid', { highC: 5e-324, lowC: 0, periodS: 5e-324, swing: 1e12, rule: 'classic' }],
  ])('%s never gives a number beyond all numbers', (name, input) => {
    expect(() => calculations.get(name)!(input as never)).toThrow(CalcError);
    expect(() => calculations.get(name)!(input as never)).toThrow(/comes out beyond all numbers/);
  });
});
