import { whyOf } from '@jolly/core/text/whyOf';
import { CalcError } from '@jolly/core/calculation/calculation';
import { calculations } from '@jolly/core/calc/calculations';
import { badInput, type Call, type Command, EXIT, JSON_FLAG, readText } from './command';

export const calcCommand: Command = {
  does: 'one calculation: one JSON object in, one JSON value out',
  takes: ['[NAME]', '[JSON]'],
  options: { list: { help: 'the names of all calculations' }, json: JSON_FLAG },
  more: 'JSON may be - for standard input. Errors are JSON, too: the value that is wrong, and what was expected.',
  async run({ words: [name = '', json = ''], has }: Call) {
    return has('list') ? list() : run(name, json === '-' ? await readText('-') : json);
  },
};

function list(): number {
  console.log([...calculations.keys()].join('\n'));
  return EXIT.fine;
}

function run(name: string, json: string): number {
  const calculation = calculations.get(name);
  if (!calculation) return badInput(`there is no calculation "${name}"; --list names them`, 'name');
  let input: unknown;
  try {
    input = JSON.parse(json);
  } catch (error) {
    return badInput(`the input is no JSON: ${whyOf(error)}`, 'json');
  }
  try {
    console.log(JSON.stringify(calculation(input)));
    return EXIT.fine;
  } catch (error) {
    if (error instanceof CalcError) return badInput(error.message, error.key);
    throw error;
  }
}
