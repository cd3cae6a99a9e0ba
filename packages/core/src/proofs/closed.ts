import { choose, type Choice, type Run, seen } from '../bringup/procedure';
import { type Facts, partsOf } from '../machine/facts';
import { isMains } from '../parts/part';
import { found, type Proof, proof, proven } from './proof';

const YES: readonly Choice[] = [
  { id: 'done', label: 'Done' },
  { id: 'not', label: 'Not yet' },
];

/** What is looked at when the machine is closed again, with how it is asked. */
function thingsToClose(facts: Facts): string[] {
  const fan = partsOf(facts, 'fan').some(({ role }) => role === 'board');
  const mains = partsOf(facts, 'heater').some(({ type }) => isMains(type));
  return [
    `The cover is on${fan ? ', and its fan is plugged in' : ''}.`,
    'The right screws are in: none longer than its hole below the board.',
    'Every cable that moves is tied where it leaves the board and where it bends.',
    'Screw terminals were tightened once more, and no wire in them is tinned.',
    ...(mains ? ['Mains is covered, and a qualified electrician has seen it; local codes hold.'] : []),
  ];
}

/** The machine closed up, by a list. */
export const closedProof = (facts: Facts): Proof =>
  proof(
    {
      id: 'closed',
      title: 'It is closed up',
      act: 'Supply off, plug out. Go through the list: cover, screws, cables, terminals.',
      caution: 'Unplug the supply before you reach in.',
      restsOn: ['board', 'landing.*', 'fan.*'],
      after: ['travel'],
      causes: { open: [{ cause: 'Something of the list is not done', look: 'Do it, and go through the list again.' }] },
    },
    function* (): Run<{ done: string[]; open: string[] }> {
      const done: string[] = [];
      for (const thing of thingsToClose(facts)) {
        const answer = yield* choose({ text: thing, about: 'closed', choices: YES });
        if ('ended' in answer) return answer;
        if (answer.chosen !== 'done') return seen({ done, open: [thing] });
        done.push(thing);
      }
      return seen({ done, open: [] });
    },
    ({ done, open }) =>
      open.length > 0
        ? found('open', ...open.map((thing) => `not yet: ${thing}`))
        : proven(...done.map((thing) => `you said: ${thing}`)),
  ); // prettier-ignore
