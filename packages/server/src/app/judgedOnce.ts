import type { Plate } from '@jolly/contract/endpoints/machines';
import { check } from '@jolly/core/checks/checks';
import type { Severity } from '@jolly/core/finding/finding';
import type { Facts } from '@jolly/core/machine/facts';
import { proofSteps } from '@jolly/core/proofs/proofs';
import { derive } from '@jolly/core/settings/derive';

type Judged = Required<Pick<Plate, 'unguarded' | 'findings' | 'stepsToProve'>>;

/** What a machine was judged by: while all of it is the same, so is the judgement. */
type Grounds = readonly unknown[];
const groundsOf = ({ machine, board, chip, kit, parts }: Facts): Grounds => [
  // As it reads: a machine that was put in the place of another may have its version.
  JSON.stringify(machine),
  board,
  chip,
  kit,
  // Types are the catalogue's own: one that was described anew is another.
  ...parts.map(({ type }) => type),
];

const known = new Map<string, { grounds: Grounds; judged: Judged }>();

/** What the checks and the steps of bring-up say of a machine; worked out once for each state of it. */
export function judgedOnce(facts: Facts): Judged {
  const { id } = facts.machine;
  const grounds = groundsOf(facts);
  const before = known.get(id);
  if (
    before?.grounds.length === grounds.length &&
    before.grounds.every((ground, index) => ground === grounds[index])
  )
    return before.judged;
  const judged = judge(facts);
  known.set(id, { grounds, judged });
  return judged;
}

function judge(facts: Facts): Judged {
  const settings = derive(facts);
  const findings = check(facts, settings);
  const count = (severity: Severity) =>
    findings.filter((finding) => finding.severity === severity && finding.waived === undefined).length;
  return {
    unguarded: findings.filter(({ id }) => id === 'heat.guard-off').map(({ what }) => what),
    findings: { stop: count('stop'), mend: count('mend'), question: count('question'), note: count('note') },
    stepsToProve: proofSteps(facts, settings).length,
  };
}
