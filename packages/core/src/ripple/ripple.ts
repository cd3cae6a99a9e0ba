import { asSentence } from '../text/asSentence';
import { pinTable } from '../circuit/pinTable';
import { isRead } from '../kit/kit';
import { type Facts, resolve } from '../machine/facts';
import type { Machine } from '../machine/machine';
import type { ProofStep } from '../proofs/proof';
import { proofsOf } from '../proofs/proofs';
import { derive } from '../settings/derive';
import type { Settings } from '../settings/setting';
import { textSum } from '../bytes/textSum';
import { lastFew } from '../tree/lastFew';
import { once } from '../tree/once';
import { oncePer } from '../tree/oncePer';
import { cautionRules, voltageRules } from './cautionRules';
import type { Change } from './change';
import { applyChange, CHANGE_TYPES, inWorkingOrder } from './changes';
import { CONSEQUENCE_KINDS, type Consequence, type Said, STATION_OF } from './consequence';
import { clashes, type Contradiction, factClashes, type Made, madeBy } from './contradictions';
import { idleRules } from './idleRules';
import { leadRules } from './leadRules';
import { calibrationRules, proofRules } from './proofRules';
import { settingRules } from './settingRules';
import { slicerRules } from './slicerRules';
import type { Stage } from './stage';
import { stepRules } from './stepRules';
import { factAtoms, type FactAtoms, type FactKey, type Touched, touched } from '../machine/touched';

/** Every rule of the ripple. Each looks at one change being made and says what follows from it. */
export const RULES: readonly { id: string; run: (stage: Stage) => Said[] }[] = [
  { id: 'leads', run: leadRules },
  { id: 'steps', run: stepRules },
  { id: 'settings', run: settingRules },
  { id: 'idle', run: idleRules },
  { id: 'proofs', run: proofRules },
  { id: 'calibrations', run: calibrationRules },
  { id: 'cautions', run: cautionRules },
  { id: 'voltages', run: voltageRules },
  { id: 'slicer', run: slicerRules },
];

/** Everything that follows from changes to a machine, in the order in which it is done. */
export interface Ripple {
  consequences: Consequence[];
  /** Where changes do not go together, or one of them cannot be made; such a change is left out. */
  contradictions: Contradiction[];
  /** The machine with every possible change made. */
  after: Machine;
  /** The facts that differ between now and then. */
  touched: Touched;
  /** Whether another image is needed. */
  flash: boolean;
}

/**
 * Computes the tail of any combination of changes on a machine. What follows is read off the machine as it is and
 * as it will be, so that what cancels out is not there; making the changes one after the other in working order
 * tells which of them each consequence comes from. A pure function: a change taken away leaves nothing behind.
 */
export function ripple(before: Facts, changes: readonly Change[]): Ripple {
  const ordered = inWorkingOrder(changes);
  const contradictions: Contradiction[] = [];
  const causes = new Map<string, string[]>();
  const events: FactKey[] = [];
  const made: Made[] = [];
  const first = stateOf(before);
  let last = first;
  for (const change of ordered) {
    const step = stepOf(change, last);
    if ('problem' in step) {
      contradictions.push(step.problem);
      continue;
    }
    if (ordered.length > 1)
      for (const key of step.brings()) causes.set(key, [...(causes.get(key) ?? []), change.id]);
    events.push(...eventsOf(change));
    made.push(step.made);
    last = step.next;
  }
  const done = made.map(({ change }) => change);
  contradictions.push(...clashes(made), ...factClashes(before, last.facts, done));
  const whole = stageBetween(first, last, events);
  const everyChange = done.map((change) => change.id);
  const consequences = saidAbout(whole).map((said) =>
    consequence(said, causes.get(keyOf(said)) ?? everyChange),
  );
  return {
    consequences: CONSEQUENCE_KINDS.flatMap((kind) => consequences.filter((entry) => entry.kind === kind)),
    contradictions,
    after: last.facts.machine,
    touched: whole.touched,
    // A setting that this version of the kit leaves alone needs no new image.
    flash:
      done.some((change) => CHANGE_TYPES[change.kind].flash) ||
      consequences.some(({ kind, subject }) => kind === 'setting' && isRead(last.facts.kit, subject)) ||
      pinsIn(last) !== pinsIn(first),
  };
}

/** The pins of an image: they are built in, and a lead that sits elsewhere is dead with the image of before. */
const pinsIn = ({ facts }: State): string =>
  Object.values(pinTable(facts))
    .flat()
    .map(({ name, pin }) => `${name} ${pin}`)
    .join();

/** How many ways on from one state are kept, each with all that it holds. */
const STEPS_KEPT = 4;

const keyOf = ({ kind, subject }: Said) => `${kind}:${subject}`;
const saidAbout = (stage: Stage) => RULES.flatMap((rule) => rule.run(stage));

/** What a tick is for beside its subject: the same lead to another place, or the same step with other acts, is another thing to do. */
const TICKED_FOR: Partial<Record<Said['kind'], (said: Said) => string>> = {
  lead: ({ to }) => (to ? `@${to}` : ''),
  step: ({ title, acts = [] }) => `#${textSum([title, ...acts].join('\n'))}`,
  decide: ({ from, to, because }) => `#${textSum([from, to, because].join('\n'))}`,
};

function consequence(said: Said, causes: string[]): Consequence {
  const target = TICKED_FOR[said.kind]?.(said) ?? '';
  const { kind, subject, title, from, to, because, attention } = said;
  return {
    id: `${keyOf(said)}${target}`,
    kind,
    station: said.station ?? STATION_OF[kind],
    subject,
    title,
    ...(from !== undefined && { from }),
    ...(to !== undefined && { to }),
    because,
    causes,
    ...(attention && { attention }),
  };
}

/** A machine in one state, with what is computed from it once. */
interface State {
  facts: Facts;
  settings: Settings;
  proofs: readonly ProofStep[];
  atoms: FactAtoms;
}

/** A machine that did not change between two key presses is asked about again. */
const stateOf = oncePer((facts: Facts): State => {
  const settings = derive(facts);
  return { facts, settings, proofs: proofsOf(facts, settings), atoms: factAtoms(facts) };
});

function stageBetween(before: State, after: State, events: readonly FactKey[]): Stage {
  return {
    before: before.facts,
    after: after.facts,
    settingsBefore: before.settings,
    settingsAfter: after.settings,
    proofsBefore: before.proofs,
    proofsAfter: after.proofs,
    touched: touched(before.atoms, after.atoms, events),
  };
}

/** One change made: the machine after it and the keys of what it brings; or why it cannot be made. */
type Step = { next: State; made: Made; brings: () => ReadonlySet<string> } | { problem: Contradiction };

/** A key press is in one of the changes: what those before it come to is known still. */
const stepsFrom = oncePer((_before: Facts) => lastFew<Step>(STEPS_KEPT));
const stepOf = (change: Change, before: State): Step =>
  stepsFrom(before.facts)(JSON.stringify(change), () => makeStep(change, before));

function makeStep(change: Change, before: State): Step {
  const next = stateAfter(change, before);
  if ('problem' in next) return next;
  return {
    next,
    made: madeBy(change, before.facts.machine, next.facts.machine),
    brings: once(() => new Set(saidAbout(stageBetween(before, next, eventsOf(change))).map(keyOf))),
  };
}

const eventsOf = ({ kind }: Change): readonly FactKey[] => CHANGE_TYPES[kind].events ?? [];

/** The state after a change, or why it cannot be made. */
function stateAfter(change: Change, before: State): State | { problem: Contradiction } {
  const { machine: present, catalogue } = before.facts;
  const cannot = (why: string) => ({
    problem: {
      id: 'impossible',
      changes: [change.id],
      what: `${CHANGE_TYPES[change.kind].title}: this cannot be done here.`,
      why: asSentence(why),
    },
  });
  const machine = applyChange(present, change, catalogue);
  if ('impossible' in machine) return cannot(machine.impossible);
  const resolved = resolve(machine, catalogue);
  return 'problems' in resolved
    ? cannot([...new Set(resolved.problems.map(({ message }) => message))].join('; '))
    : stateOf(resolved.facts);
}
