import type { Edit } from '@jolly/core/machine/edit';
import type { Doing } from '../../ui/useAct';
import type { Finding, Severity } from '@jolly/core/finding/finding';

/** Something to settle at a station. */
export interface Slip {
  id: string;
  severity: Severity | 'todo' | 'ready' | 'proven';
  /** The check it comes from, where there is one. */
  check?: string;
  what: string;
  why: string;
  caution?: string;
  evidence: string[];
  /** What may be behind it, the likeliest first, each with the next thing to look at. */
  causes?: readonly SlipCause[];
  /** Settled: its title stands, the rest unfolds. */
  settled?: boolean;
  /** The finding behind it, which can be set aside. */
  finding?: Finding;
  /** What settles it; the first is what `enter` does. */
  actions: SlipAction[];
}
export interface SlipCause {
  cause: string;
  look: string;
  /** Where it is mended. */
  go?: { to: string; title: string };
}
export type SlipAction = { label: string } & (
  { edits: Edit[] } | { go: string } | { run: Doing | (() => void); running?: boolean }
);

export const SEVERITY_WORD: Record<Slip['severity'], string> = {
  stop: 'Stop',
  mend: 'Mend',
  question: 'Question',
  note: 'Note',
  todo: 'To prove',
  ready: 'Ready',
  proven: 'Proven',
};

/** Findings that are set aside come last. */
export const standingFirst = (findings: readonly Finding[]): Finding[] => [
  ...findings.filter(({ waived }) => waived === undefined),
  ...findings.filter(({ waived }) => waived !== undefined),
];

/** A finding as a slip; it leads to its setting when nothing else settles it. */
export function slipOfFinding(finding: Finding, goTo: (finding: Finding) => string): Slip {
  return {
    id: `${finding.id}:${finding.subject.id}`,
    severity: finding.severity,
    check: finding.id,
    what: finding.what,
    why: finding.why,
    evidence: finding.evidence,
    finding,
    actions: [...finding.remedies, { label: 'Show it', go: goTo(finding) }],
  };
}
