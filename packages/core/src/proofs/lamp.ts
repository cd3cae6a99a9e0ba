import { askAll, type Choice, ended, type Run, see } from '../bringup/procedure';
import { type Facts, partsOf } from '../machine/facts';
import { passedOver } from '../settings/hearing';
import { type Cause, type Proof, proofBySight } from './proof';

const LIT: readonly Choice[] = [
  { id: 'lights', label: 'It lights' },
  { id: 'dark', label: 'It stays dark' },
  { id: 'other', label: 'Something else lights, turns or warms' },
];
const OUT: readonly Choice[] = [
  { id: 'goes-dark', label: 'It goes dark' },
  { id: 'stays', label: 'It stays lit' },
];
const LAMP_CAUSES: Readonly<Record<string, readonly Cause[]>> = {
  dark: [
    { cause: 'Its plug is out, or plus and minus are exchanged: a strip of diodes lights one way round only', look: 'Compare it with the swap sheet, with the power off.', at: 'wiring' },
    { cause: 'It burnt out at too many volts, or gets too few', look: 'Read its label, and measure at its header.', at: 'wiring' },
  ],
  other: [{ cause: 'Two leads are exchanged', look: 'Compare the leads with the swap sheet, with the supply off.', at: 'wiring' }],
  stays: [
    { cause: 'Its lead sits where the supply always is', look: 'Compare it with the swap sheet, with the power off.', at: 'wiring' },
    { cause: 'The switch of its output has failed closed', look: 'Unplug it, and measure the output while it is off.', at: 'wiring' },
  ],
}; // prettier-ignore

/** Lamps that the image switches. */
export const lampProofs = (facts: Facts): Proof[] =>
  partsOf(facts, 'lamp')
    .filter((part) => !passedOver(facts, part))
    .map(({ id, role }) =>
      proofBySight(
        {
          id: `lamp-${role}`,
          title: 'The lamp lights, and goes dark',
          act: 'Ask for full light, then for none. Look at the lamp: does it follow, and only it?',
          restsOn: ['board', `lamp.${role}`, 'landing.lamp', 'supply'],
          after: ['identity'],
          causes: LAMP_CAUSES,
        },
        [...OUT, ...LIT],
        () => lightAndLook(id),
      ),
    );

function* lightAndLook(id: string): Run<string> {
  const problem = yield* askAll(['lamp s=255']);
  const lit = problem ? ended(problem) : yield* see({ text: 'What does the lamp do?', about: id, choices: LIT }); // prettier-ignore
  // Whatever came of it, it is not left on.
  const unheard = yield* askAll(['lamp s=0']);
  if ('ended' in lit || lit.seen !== 'lights') return lit;
  return unheard ? ended(unheard) : yield* see({ text: 'And now?', about: id, choices: OUT });
}
