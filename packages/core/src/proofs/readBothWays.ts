import type { Part } from '../parts/part';
import {
  type Answer,
  ask,
  choose,
  ended,
  type HandWork,
  type Procedure,
  replies,
  type Run,
  seen,
  tell,
  wait,
} from '../bringup/procedure';
import { type Cause, found, proven, type Verdict } from './proof';

/** What was read of an input, in the order in which it changed. */
export interface ReadStates {
  states: readonly string[];
  gaveUp: boolean;
  /** It was read as worked although nobody touched it. */
  untouched?: boolean;
  /** Looks in a row, to the last one, at which it read both. */
  mixed?: number;
}

/** Which line tells an input, and the words in which it stands at rest and worked. */
export interface ReadInput {
  /** The part's id. */
  part: string;
  line: string;
  word: string;
  value: string;
  rest: string;
  worked: string;
}
export const switchInput = (part: string, value: string): ReadInput => ({ part, line: 'M119', word: 'switch', value, rest: 'open', worked: 'closed' }); // prettier-ignore

/** Readings one after another that have to agree: what reads by chance agrees seldom. */
const AGREE = 16;
/** So many looks in a row at which it read both, and it is no switch. */
const MOST_MIXED = 3;
const MOST_CHANGES = 12;
const MIXED = 'both by turns';

/** Looks at an input several times at once: its state, or that it read both by turns. */
function* look({ line, word, value }: ReadInput): Procedure<{ state: string } | { ended: Answer }> {
  const states = new Set<string>();
  for (let reading = 0; reading < AGREE; reading += 1) {
    const answer = yield* ask(line);
    const state = replies(answer, word)[0]?.values[value];
    if (state === undefined) return ended(answer);
    states.add(state);
  }
  const [state = MIXED] = states;
  return { state: states.size === 1 ? state : MIXED };
}

/** Asks a person to work an input by hand, until it was read at rest, worked and at rest again, or they give up. */
export function* readBothWays(input: ReadInput, work: HandWork, text: string): Run<ReadStates> {
  const { rest, worked } = input;
  const states: string[] = [];
  let mixed = 0;
  yield* tell(text, work);
  for (;;) {
    const looked = yield* look(input);
    if ('ended' in looked) return looked;
    const { state } = looked;
    // A contact bounces for a moment when it is worked; one that goes on has no hold.
    mixed = state === MIXED ? mixed + 1 : 0;
    if (state !== MIXED && states.at(-1) !== state) {
      states.push(state);
      if (states.length === 1 && state === worked) {
        const why = yield* whyWorked(input);
        if ('ended' in why) return why;
        if (why.chosen === 'free') return seen({ states, gaveUp: false, untouched: true });
        yield* tell('Take it off, so that it is free.', work);
      } else if (state === worked) yield* tell(`Read as ${state}. Now the other way again.`, work);
      else if (states.length > 1) yield* tell(`Read as ${state}. ${text}`, work);
    }
    if (states.join(' ').endsWith(`${rest} ${worked} ${rest}`)) return seen({ states, gaveUp: false, mixed });
    if (mixed > MOST_MIXED || states.length > MOST_CHANGES) return seen({ states, gaveUp: false, mixed });
    if ((yield* wait()).problem) return seen({ states, gaveUp: true, mixed });
  }
}

/** Only a person can see whether something works an input that is read as worked. */
const whyWorked = ({ part, value, worked }: ReadInput) =>
  choose({
    text: `${value} reads ${worked} already. Is something at it?`,
    about: part,
    choices: [
      { id: 'touched', label: 'Yes: I take it off now' },
      { id: 'free', label: 'No, it is free' },
    ],
  });

/** Judges what was read: at rest first, then worked, then at rest. */
export function judgeBothWays(
  { value, rest, worked }: ReadInput,
  { states, gaveUp, untouched, mixed = 0 }: ReadStates,
): Verdict {
  const read = `${value} read ${states.join(', then ') || 'nothing that held'}${gaveUp ? ', then you gave up' : ''}`;
  if (mixed > MOST_MIXED) return found('chatters', read, `and both by turns at ${mixed} looks`);
  if (!gaveUp && states.length <= 4 && states.join(' ').endsWith(`${rest} ${worked} ${rest}`)) return proven(read);
  if (states.length > 4) return found('chatters', read);
  if (untouched) return found('always', read, 'and nothing was at it');
  return found('never', read);
} // prettier-ignore

const NO_SUPPLY: Cause = { cause: 'It gets no supply or the wrong one', look: 'Measure at its plug, with the power on and hands off.' }; // prettier-ignore
const WIRE_OFF: Cause = { cause: 'One of its wires is off: a contact that is closed at rest reads as pressed then', look: 'Measure through the switch at its plug.' }; // prettier-ignore
const PULL_UP: Cause = { cause: 'A pull-up is missing on this port', look: 'Switch the chip’s own on, or take another port.', at: 'settings' }; // prettier-ignore
/** What drives its output both ways holds the line by itself: a line that floats is none of its. */
const drives = (type: Part): boolean => 'output' in type && type.output === 'driven';
const isFed = (type: Part): boolean => type.leads.some(({ role }) => role === 'supply');
/** What may be behind an input that does not read as it is worked. */
export const inputCauses = (type: Part): Record<string, readonly Cause[]> => ({
  never: [
    { cause: 'The plug sits one contact too far, or in another header', look: 'Compare it with the swap sheet.', at: 'wiring' },
    { cause: 'Signal or ground has no contact', look: 'Pull at each crimp; measure from its plug to its other end.' },
    { cause: 'Signal and ground are exchanged', look: 'Compare the order of the wires with the swap sheet.', at: 'wiring' },
    ...(isFed(type) ? [NO_SUPPLY] : []),
  ],
  always: [
    { cause: 'It is read the wrong way round', look: 'Say which kind of contact it has: measure through it while it is free.', at: 'settings' },
    ...(type.kind === 'switch' && type.contact === 'normally-closed' ? [WIRE_OFF] : []),
    { cause: 'Signal and ground are exchanged, or the plug sits one contact too far', look: 'Compare it with the swap sheet.', at: 'wiring' },
  ],
  chatters: [
    ...(drives(type) ? [] : [PULL_UP]),
    { cause: 'Its ground or its signal has no contact: it floats', look: 'Pull at the crimp, and plug it anew with the power off.' },
    { cause: 'Signal and ground are exchanged', look: 'Compare the order of the wires with the swap sheet.', at: 'wiring' },
    ...(isFed(type) ? [NO_SUPPLY] : []),
  ],
}); // prettier-ignore
