import { whyOf } from '@jolly/core/text/whyOf';
import { CalcError } from '@jolly/core/calculation/calculation';
import { calculations } from '@jolly/core/calc/calculations';
import { type Call, EXIT, readWords } from './command';

function refuse(key: string, message: string): number {
  console.error(JSON.stringify({ error: { key, message } }));
  return EXIT.badInput;
}

/** `calc NAME JSON`: one JSON object in, one JSON value out. */
export function calcCommand({ words }: Call): Promise<number> {
  const { flags, rest } = readWords(words);
  return Promise.resolve(flags.has('list') ? list() : run(rest[0] ?? '', rest[1] ?? ''));
}

function list(): number {
  console.log([...calculations.keys()].join('\n'));
  return EXIT.fine;
}

function run(name: string, json: string): number {
  const calculation = calculations.get(name);
  if (!calculation) return refuse('name', `there is no calculation "${name}"; --list names them`);
  let input: unknown;
  try {
    input = JSON.parse(json);
  } catch (error) {
    return refuse('json', `the input is no JSON: ${whyOf(error)}`);
  }
  try {
    console.log(JSON.stringify(calculation(input)));
    return EXIT.fine;
  } catch (error) {
    if (error instanceof CalcError) return refuse(error.key, error.message);
    throw error;
  }
}
