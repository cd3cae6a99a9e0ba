import { caseOf } from '@jolly/core/harness/wiringCase';
import { endInWords, swapSheetCsv } from '@jolly/core/formats/swapSheet';
import { findHarness } from '@jolly/core/harness/findHarness';
import { landingInWords } from '@jolly/core/ripple/leadRules';
import { pinTableCsv } from '@jolly/core/circuit/pinTable';
import { ripple } from '@jolly/core/ripple/ripple';
import { swapPlan } from '@jolly/core/ripple/swapPlan';
import { withMark } from '@jolly/core/text/csv';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { badInput, type Call, type Command, EXIT, JSON_FLAG } from './command';
import { readMachine } from './readMachine';

/** The harness of a machine with the place of least price for every lead that has none, or the swap plan to another board. */
export const wireCommand: Command = {
  does: 'the harness, or the swap plan to another board',
  takes: ['FILE'],
  options: {
    board: { value: 'ID[@REVISION]', help: 'the swap plan to this board' },
    json: JSON_FLAG,
    csv: { help: 'the swap sheet as CSV; with --board' },
    pins: { help: 'the pin table as CSV' },
    mark: { help: 'with --csv or --pins: begin with a byte-order mark' },
  },
  async run({ words, value, has, root }) {
    const facts = await readMachine(root, words[0] ?? '');
    const board = value('board');
    if (has('csv') && board === undefined) return badInput('wire: --csv is the sheet of a swap; it needs --board ID'); // prettier-ignore
    if (has('pins')) {
      process.stdout.write(marked(pinTableCsv(facts), has));
      return EXIT.fine;
    }
    return board === undefined ? printHarness(facts, has('json')) : printSwap(facts, board, has);
  },
};

const marked = (text: string, has: Call['has']) => (has('mark') ? withMark(text) : text);

function printHarness(facts: Facts, json: boolean): number {
  const found = findHarness(caseOf(facts), facts.machine.harness);
  if (json) console.log(JSON.stringify({ board: facts.machine.board, ...found }, null, 2));
  else {
    console.log(`${facts.board.name} rev ${facts.board.revision}, price ${found.price}`);
    for (const { id } of facts.parts) {
      const landing = found.harness[id];
      const mark = facts.machine.harness[id] ? ' ' : landing ? '+' : '!';
      console.log(`${mark} ${id.padEnd(18)} ${landing ? landingInWords(landing) : 'no place'}`);
    }
    for (const { because } of found.unmeetable) console.log(`cannot be met: ${because.join('; ')}`);
  }
  return found.unmeetable.length > 0 ? EXIT.stopped : EXIT.fine;
}

function printSwap(facts: Facts, wanted: string, has: Call['has']): number {
  const { catalogue } = facts;
  const [id = '', revision] = wanted.split('@');
  const boards = catalogue.boards.filter((entry) => entry.id === id);
  const board = revision ? boards.find((entry) => entry.revision === revision) : boards[0];
  if (!board)
    return badInput(
      `--board: no "${wanted}" in the catalogue; known: ${catalogue.boards.map((entry) => `${entry.id}@${entry.revision}`).join(', ')}`,
    );
  const change = { id: 'board', kind: 'new-board' as const, board: board.id, revision: board.revision };
  const tail = ripple(facts, [change]);
  const after = resolve(tail.after, catalogue);
  const impossible = tail.contradictions.find((entry) => entry.id === 'impossible');
  if (impossible) return badInput(impossible.why);
  if ('problems' in after) return badInput(after.problems[0].message);
  const plan = swapPlan(facts, after.facts, tail.consequences);
  const { unmeetable } = findHarness({ ...caseOf(after.facts, facts) });
  if (has('json'))
    console.log(
      JSON.stringify(
        { harness: tail.after.harness, unmeetable, contradictions: tail.contradictions, plan },
        null,
        2,
      ),
    );
  else if (has('csv')) process.stdout.write(marked(swapSheetCsv(plan, new Set()), has));
  else {
    console.log(`${plan.from} to ${plan.to}`);
    plan.steps.forEach((step, index) => {
      const places = [endInWords(step.from), endInWords(step.to)].filter(Boolean).join(' -> ');
      console.log(`${`${index + 1}.`.padEnd(4)}${step.title}${places ? `: ${places}` : ''}`);
      for (const { what } of step.tasks) console.log(`      ${what}`);
      for (const caution of step.cautions) console.log(`    ! ${caution}`);
    });
    for (const { because } of unmeetable) console.log(`cannot be met: ${because.join('; ')}`);
    for (const { what, why } of tail.contradictions) console.log(`does not go together: ${what} ${why}`);
  }
  return unmeetable.length + tail.contradictions.length > 0 ? EXIT.stopped : EXIT.fine;
}
