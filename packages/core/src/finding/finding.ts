import type { Edit } from '../machine/edit';

/** `stop`: cannot build, or could hurt. `mend`: will not work or will disappoint. `note`: worth knowing. `question`: a fact is missing. */
export type Severity = 'stop' | 'mend' | 'note' | 'question';
export const SEVERITIES: Severity[] = ['stop', 'mend', 'question', 'note'];

export interface Subject {
  kind: 'setting' | 'part' | 'pin' | 'fact' | 'machine';
  id: string;
}

/** A change that settles a finding, to be previewed, applied and undone. */
export interface Remedy {
  label: string;
  edits: Edit[];
}

export interface Finding {
  /** The check's id. */
  id: string;
  severity: Severity;
  subject: Subject;
  what: string;
  why: string;
  evidence: string[];
  remedies: Remedy[];
  /** Why it is set aside, where somebody did. */
  waived?: string;
}

/** What a check says; its id is added by the runner, its severity unless it is another. */
export type Spoken = Omit<Finding, 'id' | 'severity' | 'remedies' | 'waived'> & {
  severity?: Severity;
  remedies?: Remedy[];
};
