import type { Plate } from '@jolly/contract/endpoints/machines';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { check } from '@jolly/core/checks/checks';
import type { Severity } from '@jolly/core/finding/finding';
import { type Facts, resolve, type Unresolved } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import { proofSteps } from '@jolly/core/proofs/proofs';
import { derive } from '@jolly/core/settings/derive';
import type { Settings } from '@jolly/core/settings/setting';
import type { MachineText } from '../sql/machines';

type Judged = Required<Pick<Plate, 'unguarded' | 'findings' | 'stepsToProve'>>;

/** A machine that was read: what it says, what it names, and what the checks and the steps of bring-up say of it. */
export interface ReadMachine {
  machine: Machine;
  read: Unresolved | { facts: Facts; settings: Settings; judged: Judged };
}

const known = new Map<string, { grounds: readonly unknown[]; is: ReadMachine }>();

/** Reads a stored machine; once for each text of it and each state of the catalogue, whose lists are never written into. */
export function readOnce({ id, text }: MachineText, catalogue: Catalogue): ReadMachine {
  // As it reads: a machine that was put in the place of another may have its version.
  const grounds = [text, ...Object.values(catalogue)];
  const before = known.get(id);
  if (
    before?.grounds.length === grounds.length &&
    before.grounds.every((ground, index) => ground === grounds[index])
  )
    return before.is;
  const is = read(text, catalogue);
  known.set(id, { grounds, is });
  return is;
}

function read(text: string, catalogue: Catalogue): ReadMachine {
  // Checked before it was stored.
  const machine = JSON.parse(text) as Machine;
  const resolved = resolve(machine, catalogue);
  if ('problems' in resolved) return { machine, read: resolved };
  const { facts } = resolved;
  const settings = derive(facts);
  return { machine, read: { facts, settings, judged: judge(facts, settings) } };
}

function judge(facts: Facts, settings: Settings): Judged {
  const findings = check(facts, settings);
  const count = (severity: Severity) =>
    findings.filter((finding) => finding.severity === severity && finding.waived === undefined).length;
  return {
    unguarded: findings.filter(({ id }) => id === 'heat.guard-off').map(({ what }) => what),
    findings: { stop: count('stop'), mend: count('mend'), question: count('question'), note: count('note') },
    stepsToProve: proofSteps(facts, settings).length,
  };
}
