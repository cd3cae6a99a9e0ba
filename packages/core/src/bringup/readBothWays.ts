import { ask, ended, replies, type Run, seen, tell, wait } from './procedure';

/** An input that is met before anybody touched it. */
const STANDS_CLOSED =
  'It reads closed already. If it is pressed, move the axis off it by hand with the motors off. If it is not, give up here: it is read the wrong way round, or its wire is broken.';

/** Asks a person to work an input by hand, until it was read open, closed and open again, or they give up. */
export function* readBothWays(input: string, text: string): Run<{ ok: boolean; evidence: string }> {
  const states: string[] = [];
  const read = () => `${input} read ${states.join(', then ')}`;
  yield* tell(text);
  for (;;) {
    const answer = yield* ask('M119');
    const state = replies(answer, 'switch')[0]?.values[input];
    if (state === undefined) return ended(answer);
    if (states.at(-1) !== state) {
      states.push(state);
      if (states.length === 1 && state === 'closed') yield* tell(STANDS_CLOSED);
      else if (states.length === 2) yield* tell(text);
    }
    if (states.join(' ').endsWith('open closed open')) return seen({ ok: true, evidence: read() });
    if ((yield* wait()).problem) return seen({ ok: false, evidence: `${read()}, then you gave up` });
  }
}
