import { describe, expect, it } from 'vitest';
import { type Answer, NO_ANSWER } from '../src/bringup/procedure';
import { guardProofs } from '../src/proofs/guards';
import { heaterProofs } from '../src/proofs/heaters';
import { homingProofs } from '../src/proofs/homing';
import { identityProof } from '../src/proofs/identity';
import { lampProofs } from '../src/proofs/lamp';
import { extruderProofs, motorProofs } from '../src/proofs/motors';
import { causesOf, type Proof } from '../src/proofs/proof';
import { derive } from '../src/settings/derive';
import { applyEdits } from '../src/machine/edit';
import { type AtTheMachine, carriedOut } from './fixtures/atTheMachine';
import { demoMachine, factsOf } from './fixtures/demo';

const plover = factsOf(demoMachine('plover'));
const settings = derive(plover);
const stepOf = (steps: readonly Proof[], id: string): Proof => {
  const step = steps.find((one) => one.id === id);
  if (!step) throw new Error(`no step ${id}; there are ${steps.map((one) => one.id).join(', ')}`);
  return step;
};
const outcomeOf = (step: Proof, at: AtTheMachine) => {
  const done = carriedOut(step.run(undefined), at);
  const { outcome, finding } = done.result;
  // Whatever is found has a cause to look at, but where somebody gave up or the board refused.
  if (finding !== undefined && finding !== 'given up' && finding !== 'refused')
    expect(causesOf(step, finding).length, finding).toBeGreaterThan(0);
  return { ...done, is: finding ?? outcome };
};

/** A board with heated bodies on paper: each goes towards its target by so much a second, unless a test says otherwise. */
function heated({ pace = 1, other = 0, from = 22, stuck = false, guardAfterS = Infinity, dutyAfter = 0 } = {}) {
  let s = 0;
  let target = 0;
  const now: Record<string, number> = { hotend: from, bed: 22 };
  let cooling = 0;
  let gone = false;
  let stopped: string | undefined;
  let since = NaN;
  const sent: string[] = [];
  const bodies = () => Object.entries(now).map(([body, c]) => `heat body=${body} now=${(body === 'hotend' && gone ? -60 : c).toFixed(2)} target=${body === 'hotend' && stopped === undefined ? target : 0} duty=${body === 'hotend' && stopped === undefined && target > 0 ? 0.8 : body === 'hotend' ? dutyAfter : 0}`);
  return {
    sent,
    target: () => target,
    cool: (by: number) => (cooling = by),
    pull: (out: boolean) => (gone = out),
    nowS: () => s,
    board(line: string): string[] {
      sent.push(line);
      if (line === 'state') return [`state doing=${stopped === undefined ? 'idle' : 'stopped'}${stopped === undefined ? '' : ` why="${stopped}"`}`, 'done'];
      if (line === 'M105') return [...bodies(), 'done'];
      if (stopped !== undefined) return [`error: asleep since the stop`];
      if (line.startsWith('M104 S')) target = Number(line.slice(6));
      if (line.startsWith('G4 S')) {
        s += Number(line.slice(4));
        const hotend = now['hotend'] ?? 0;
        if (stuck) now['hotend'] = hotend + 1;
        else if (target > 0 && cooling === 0) {
          now['hotend'] = Math.min(target, hotend + pace);
          now['bed'] = (now['bed'] ?? 0) + other;
        } else if (cooling > 0) now['hotend'] = Math.max(20, hotend - cooling);
        const trips = gone || (cooling > 0 && (now['hotend'] ?? 0) < target - 10);
        if (trips && Number.isNaN(since)) since = s;
        if (trips && s - since >= guardAfterS) {
          stopped = 'hotend does not follow its heater';
          return [`stopped: ${stopped}`];
        }
      }
      return ['done'];
    },
  };
} // prettier-ignore

describe('a heater alone', () => {
  const step = stepOf(heaterProofs(plover), 'heat-hotend');
  /** From 2 to 25 °C above: what its watts say, s. */
  const ratedS = Number(/about (\d+) s/.exec(outcomeOf(step, heated({ pace: 3 })).result.evidence.at(-1) ?? '')?.[1]); // prettier-ignore
  const paced = (times: number) => 23 / (ratedS * times);

  it('its watts say how long it takes', () => expect(ratedS).toBeGreaterThan(3));

  it.each([
    ['at the pace of its watts', { pace: paced(1) }, 'proven'],
    ['somewhat slower', { pace: paced(1.7) }, 'proven'],
    ['far too slowly', { pace: paced(3) }, 'slow'],
    ['far too fast', { pace: paced(0.2) }, 'fast'],
    ['not at all', { pace: 0 }, 'none'],
    ['and another with it', { pace: 1, other: 0.5 }, 'other'],
    ['and another leaps, as no body can', { pace: 1, other: 4 }, 'leaps'],
    ['before it is asked', { stuck: true }, 'stuck'],
    ['and is still switched on when asked for none', { pace: paced(1), dutyAfter: 0.4 }, 'stuck'],
  ])('warms %s', (_, how, is) => {
    const at = heated(how);
    expect(outcomeOf(step, at).is).toBe(is);
    expect(at.target()).toBe(0);
  });

  it('a guard that acts because hardly anything warms is told from nothing at all', () => {
    const guarded = (pace: number) => {
      const at = heated({ pace });
      let seconds = 0;
      return outcomeOf(step, {
        ...at,
        board: (line) => (line === 'G4 S1' && at.target() > 0 && (seconds += 1) > 20 ? ['stopped: hotend does not warm'] : at.board(line)),
      }).is; // prettier-ignore
    };
    expect(guarded(0.2)).toBe('hardly');
    expect(guarded(0)).toBe('none');
  });

  it('a board that tells no temperature proves nothing, and is asked for no heat', () => {
    const sent: string[] = [];
    const { is } = outcomeOf(step, { board: (line) => (sent.push(line), ['done']) });
    expect(is).toBe('refused');
    expect(sent.filter((line) => line.startsWith('M104'))).toEqual(['M104 S0']);
  });
});

describe('a board that nobody hears', () => {
  const step = identityProof(plover);
  const ends = (answer: Answer) => {
    const going = step.run(undefined);
    going.next();
    const over = going.next(answer);
    return over.done ? over.value.finding : undefined;
  };
  it.each([
    ['nothing comes', { lines: [], problem: NO_ANSWER }, 'silent', /lamp/],
    ['what comes cannot be read', { lines: [], problem: NO_ANSWER, noise: true }, 'unreadable', /speeds/],
  ] as const)('%s: the likeliest is told first', (_, { ...answer }, finding, about) => {
    expect(ends({ ...answer, lines: [] })).toBe(finding);
    const [likeliest] = causesOf(step, finding);
    expect(`${likeliest?.cause} ${likeliest?.look}`).toMatch(about);
  });
  it('the power that went is no silence', () => {
    expect(ends({ lines: [], problem: 'the power was switched off' })).toBe('refused');
  });
});

describe('homing', () => {
  const step = stepOf(homingProofs(plover, settings), 'home');
  const board = (home: string[], at: string[]) => ({
    board: (line: string) => (line === 'G28' ? home : line === 'M114' ? at : ['done']),
  });
  it('a reason that is not of homing is no finding of homing', () => {
    const { is, result } = outcomeOf(step, board(['stopped: hotend does not follow its heater'], []));
    expect([is, result.evidence]).toEqual(['refused', ['stopped: hotend does not follow its heater']]);
    expect(outcomeOf(step, board(['stopped: hotend something new'], [])).is).toBe('refused');
  });
  it('a number is the reason at that place of the list, and no words that end alike', () => {
    const place = plover.kit.messages.findIndex(({ name }) => name === 'MET_NO_SWITCH') + 1;
    expect(outcomeOf(step, board([`stopped: Y ${place}`], [])).is).toBe('no switch met');
    expect(outcomeOf(step, board([`error: it took ${place}`], [])).is).toBe('refused');
    expect(outcomeOf(step, board([`stopped: Y ${place}0`], [])).is).toBe('refused');
  });
  it('a board that does not tell its place is not homed, nor said to be at an unknown one', () => {
    const { is, result } = outcomeOf(step, board(['done'], ['done']));
    expect([is, result.evidence]).toEqual(['refused', ['the board does not tell its place', 'done']]);
  });
  it('an axis that is missing is told', () =>
    expect(outcomeOf(step, board(['done'], ['at x=1 y=2 z=3 homed=xy-', 'done'])).is).toBe('not all'));
});

describe('a guard that is made to trip', () => {
  const steps = guardProofs(plover, settings);
  const promisedS = Number(settings.get('guard.hotend.drop-time')?.value);
  /** A person who cools, or pulls the plug, as soon as they are told, and takes it back. */
  function withHands(at: ReturnType<typeof heated>, does: 'cool' | 'pull', wellDone = true) {
    let held = 0;
    return {
      ...at,
      board(line: string) {
        if (line === 'M105' && at.target() > 0) held += 1;
        // Long enough held: what was told is done.
        if (held > 60 && wellDone) {
          if (does === 'cool') at.cool(2);
          else at.pull(true);
        }
        return at.board(line);
      },
      eyes: () => 'done',
    };
  }

  it('off means that there is no such step', () => {
    const off = factsOf(applyEdits(plover.machine, [{ path: ['settings', 'guard.hotend'], value: { value: false, source: 'override', because: 'a test' } }])); // prettier-ignore
    expect(guardProofs(off, derive(off)).map(({ id }) => id)).toEqual(['guard-bed', 'guard-bed-sensor']);
  });

  it.each([
    ['cooled, and in time', 'guard-hotend', 'cool', 2, 'proven'],
    ['cooled, and far too late', 'guard-hotend', 'cool', promisedS + 20, 'late'],
    ['pulled, and at once', 'guard-hotend-sensor', 'pull', 1, 'proven'],
    ['pulled, and late', 'guard-hotend-sensor', 'pull', 9, 'late'],
  ] as const)('%s', (_, id, does, guardAfterS, is) => {
    expect(outcomeOf(stepOf(steps, id), withHands(heated({ guardAfterS }), does)).is).toBe(is);
  });

  it('one that never acts is found, with all heat off after', () => {
    const at = heated();
    expect(outcomeOf(stepOf(steps, 'guard-hotend'), withHands(at, 'cool')).is).toBe('never');
    expect(at.target()).toBe(0);
    expect(at.sent).toContain('M140 S0');
  });

  it('a stop of another body proves nothing of this one', () => {
    const at = heated();
    let told = 0;
    const other = {
      ...at,
      board: (line: string) => ((told += line === 'G4 S1' ? 1 : 0) > 80 && line === 'G4 S1' ? ['stopped: bed sensor open or too cold'] : at.board(line)),
      eyes: () => 'done',
    }; // prettier-ignore
    expect(outcomeOf(stepOf(steps, 'guard-hotend'), other).is).toBe('other stop');
  });

  it('heat that stays on after the stop is the worst', () => {
    const at = heated({ guardAfterS: 2, dutyAfter: 0.5 });
    expect(outcomeOf(stepOf(steps, 'guard-hotend'), withHands(at, 'cool')).is).toBe('still heats');
  });
});

describe('motors, one at a time', () => {
  const seen = (id: string, way: string, refuses?: string) => {
    const steps = [...motorProofs(plover), ...extruderProofs(plover, settings)];
    return outcomeOf(stepOf(steps, id), {
      board: (line) => (refuses !== undefined && line.startsWith(refuses) ? ['error: not now'] : ['done']),
      eyes: () => way,
    });
  };
  it.each([
    ['motor-x', '+x', 'proven'],
    ['motor-x', '-x', 'reversed'],
    ['motor-x', '+y', 'other'],
    ['motor-y', 'hums', 'hums'],
    ['motor-z', 'nothing', 'nothing'],
    ['motor-e', '+e', 'proven'],
    ['motor-e', '-e', 'reversed'],
  ])('%s, seen to go %s: %s', (id, way, is) => {
    const { is: found, sent, questions } = seen(id, way);
    expect(found).toBe(is);
    expect(sent).toContain(id === 'motor-e' ? 'G1 E10 F120' : id === 'motor-z' ? 'G1 Z5 F300' : `G1 ${id.slice(-1).toUpperCase()}10 F600`); // prettier-ignore
    // Moves are absolute again, and what was heated is cold.
    expect(sent.lastIndexOf('G90')).toBeGreaterThan(sent.lastIndexOf('G91'));
    if (id === 'motor-e') expect(sent.at(-1)).toBe('M104 S0');
    const ways = questions[0]?.choices.map((choice) => choice.id) ?? [];
    expect(ways[0]).toBe(`+${id.slice(-1)}`);
    expect(new Set(ways).size).toBe(ways.length);
  });
  it('a board that refuses to move is no proof, and a cold hot end feeds nothing', () => {
    expect(seen('motor-x', '+x', 'G1').is).toBe('refused');
    const cold = seen('motor-e', '+e', 'M109');
    expect(cold.is).toBe('refused');
    expect(cold.sent.some((line) => line.startsWith('G1'))).toBe(false);
    expect(cold.sent.at(-1)).toBe('M104 S0');
  });
  it('a crossed belt may go two ways at once', () => {
    const bittern = factsOf(demoMachine('bittern'));
    const { questions } = outcomeOf(stepOf(motorProofs(bittern), 'motor-x'), { board: () => ['done'], eyes: () => '+x+y' }); // prettier-ignore
    expect(questions[0]?.choices.map(({ id }) => id)).toEqual(expect.arrayContaining(['+x+y', '-x-y']));
  });
});

describe('limits and travel', () => {
  const AT = 'at x=10.000 y=10.000 z=10.000 e=0.000 homed=xyz';
  const VOLUME = 'volume x=0.0..200.0 y=0.0..200.0 z=0.0..200.0';
  const step = (id: string) => stepOf(homingProofs(plover, settings), id);
  const outside = (said: string) => (line: string) =>
    line === 'M114' ? [AT, 'done'] : line === 'M115' ? [VOLUME, 'done'] : line.startsWith('G1') ? [said] : ['done'];

  it.each([
    ['error: outside the travel', 'proven'],
    // Without long replies: its place among the messages of the kit.
    [`error: ${plover.kit.messages.findIndex(({ name }) => name === 'OUTSIDE') + 1}`, 'proven'],
    ['error: axis not homed, only moves of 10 mm or less', 'refused'],
    ['error: asleep since the stop; send wake, then home', 'refused'],
    ['stopped: asked by the host', 'refused'],
    ['error: 1', 'refused'],
    ['done', 'moved'],
  ])('a place beyond the travel is answered with “%s”: %s', (said, is) => {
    const done = outcomeOf(step('limits'), { board: outside(said) });
    expect(done.is).toBe(is);
    // What goes there is stopped at once.
    expect(done.sent.includes('M112')).toBe(is === 'moved');
    expect(done.sent.filter((line) => line.startsWith('G1'))).toHaveLength(is === 'proven' ? 6 : 1);
  });
  it('a stop in the middle of it proves nothing: who sleeps refuses everything', () => {
    let asked = 0;
    const board = (line: string) =>
      line.startsWith('G1') && (asked += 1) > 2 ? ['error: asleep since the stop; send wake, then home'] : outside('error: outside the travel')(line);
    expect(outcomeOf(step('limits'), { board }).is).toBe('refused');
  });
  it('an axis that creeps although it was refused is found, and a board that tells no place proves nothing', () => {
    let x = 10;
    const creeps = (line: string) => (line === 'M114' ? [AT.replace('x=10.000', `x=${(x += 0.5)}`), 'done'] : outside('error: outside the travel')(line));
    expect(outcomeOf(step('limits'), { board: creeps }).is).toBe('moved');
    const mute = (line: string) => (line === 'M114' ? ['done'] : outside('error: outside the travel')(line));
    expect(outcomeOf(step('limits'), { board: mute }).is).toBe('refused');
  });
  it('a board that does not tell its travel has reached none of it, whatever was seen', () => {
    const board = (line: string) => (line === 'M115' ? ['lantern name="x"', 'done'] : outside('done')(line));
    expect(outcomeOf(step('travel'), { board, eyes: () => 'clear' }).is).toBe('refused');
    expect(outcomeOf(step('travel'), { board: outside('done'), eyes: () => 'clear' }).is).toBe('proven');
    expect(outcomeOf(step('limits'), { board }).is).toBe('not told');
  });
}); // prettier-ignore

describe('a lamp', () => {
  const lit = factsOf(applyEdits(demoMachine('plover'), [
    { path: ['parts', 17], value: { id: 'lamp', part: 'lamp-24', role: 'lamp' } },
    { path: ['harness', 'lamp'], value: { leads: { supply: 'LAMP.1', control: 'LAMP.2' } } },
  ])); // prettier-ignore
  const step = stepOf(lampProofs(lit), 'lamp-lamp');

  it.each([
    [['lights', 'goes-dark'], 'proven'],
    [['lights', 'stays'], 'stays'],
    [['dark'], 'dark'],
    [['other'], 'other'],
    [['lights'], 'given up'],
  ])('seen as %s is %s, and it is never left on', (seen, is) => {
    const answers = [...seen];
    const done = outcomeOf(step, { board: () => ['done'], eyes: () => answers.shift() });
    expect(done.is).toBe(is);
    expect(done.sent).toEqual(['lamp s=255', 'lamp s=0']);
  });

  it('that the image does not know is no proof', () => {
    expect(outcomeOf(step, { board: () => ['error: no such command'], eyes: () => 'lights' }).is).toBe(
      'refused',
    );
  });
});
