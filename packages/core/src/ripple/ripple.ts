import type { Catalogue } from '../catalogue/catalogue';
import { type Facts, resolve } from '../machine/facts';
import type { Machine } from '../machine/machine';
import { derive } from '../settings/derive';
import type { Settings } from '../settings/setting';
import { cautionRules, voltageRules } from './cautionRules';
import type { Change } from './change';
import { applyChange, CHANGE_TYPES, inWorkingOrder } from './changes';
import { CONSEQUENCE_KINDS, type Consequence, type Said, STATION_OF } from './consequence';
import { clashes, type Contradiction, factClashes } from './contradictions';
import { idleRules } from './idleRules';
import { leadRules } from './leadRules';
import { calibrationRules, proofRules } from './proofRules';
import { settingRules } from './settingRules';
import { slicerRules } from './slicerRules';
import type { Stage } from './stage';
import { type FactKey, type Touched, touched } from './touched';

/** Every rule of the ripple. Each looks at one change being made and says what follows from it. */
export const RULES: readonly { id: string; run: (stage: Stage) => Said[] }[] = [
  { id: 'leads', run: leadRules },
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
export function ripple(before: Facts, changes: readonly Change[], catalogue: Catalogue): Ripple {
  const ordered = inWorkingOrder(changes);
  const contradictions = clashes(before.machine, ordered, catalogue);
  const causes = new Map<string, string[]>();
  const events: FactKey[] = [];
  const made: Change[] = [];
  const settingsBefore = derive(before);
  let facts = before;
  let settings = settingsBefore;
  for (const change of ordered) {
    const next = stageOf(change, facts, settings, catalogue);
    if ('problem' in next) {
      contradictions.push(next.problem);
      continue;
    }
    if (ordered.length > 1)
      for (const key of new Set(saidAbout(next).map(keyOf)))
        causes.set(key, [...(causes.get(key) ?? []), change.id]);
    events.push(...(CHANGE_TYPES[change.kind].events ?? []));
    made.push(change);
    facts = next.after;
    settings = next.settingsAfter;
  }
  contradictions.push(...factClashes(before, facts, made));
  const whole = stageBetween(before, facts, settingsBefore, settings, events);
  const everyChange = made.map((change) => change.id);
  const consequences = saidAbout(whole).map((said) =>
    consequence(said, causes.get(keyOf(said)) ?? everyChange),
  );
  return {
    consequences: CONSEQUENCE_KINDS.flatMap((kind) => consequences.filter((entry) => entry.kind === kind)),
    contradictions,
    after: facts.machine,
    touched: whole.touched,
    flash:
      made.some((change) => CHANGE_TYPES[change.kind].flash) ||
      consequences.some((entry) => entry.kind === 'setting'),
  };
}

const keyOf = ({ kind, subject }: Said) => `${kind}:${subject}`;
const saidAbout = (stage: Stage) => RULES.flatMap((rule) => rule.run(stage));

/** Its id names a lead's target too: the same lead to another place is another thing to do. */
function consequence(said: Said, causes: string[]): Consequence {
  const target = said.kind === 'lead' && said.to ? `@${said.to}` : '';
  return { ...said, id: `${keyOf(said)}${target}`, station: said.station ?? STATION_OF[said.kind], causes };
}

function stageBetween(
  before: Facts,
  after: Facts,
  settingsBefore: Settings,
  settingsAfter: Settings,
  events: FactKey[],
): Stage {
  return { before, after, settingsBefore, settingsAfter, touched: touched(before, after, events) };
}

function stageOf(
  change: Change,
  before: Facts,
  settingsBefore: Settings,
  catalogue: Catalogue,
): Stage | { problem: Contradiction } {
  const cannot = (why: string) => ({
    problem: {
      id: 'impossible',
      changes: [change.id],
      what: `${CHANGE_TYPES[change.kind].title}: this cannot be done here.`,
      why,
    },
  });
  const machine = applyChange(before.machine, change, catalogue);
  if ('impossible' in machine) return cannot(machine.impossible);
  const resolved = resolve(machine, catalogue);
  if ('problems' in resolved) return cannot(resolved.problems.map((problem) => problem.message).join('; '));
  const { facts } = resolved;
  return stageBetween(before, facts, settingsBefore, derive(facts), CHANGE_TYPES[change.kind].events ?? []);
}
