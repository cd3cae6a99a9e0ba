import type { Edit } from '../machine/edit';
import type { Machine, Waiver } from '../machine/machine';
import type { Finding } from './finding';

type Named = Pick<Finding, 'id' | 'subject'>;

/** Checks that are only set aside by somebody who types the name of the machine, and that stay on every screen. */
export const BY_NAME: ReadonlySet<string> = new Set(['heat.guard-off']);

/** What a waiver is kept under: the check and what it speaks about. */
const waiverKey = ({ id, subject }: Named) => `${id} ${subject.id}`;
/** The longest text that is kept with a waiver. */
const LONGEST = 300;
const saidBy = ({ what }: Pick<Finding, 'what'>) => what.slice(0, LONGEST);

/**
 * A finding with what somebody said to it. A check that wants the machine's name is not set aside without it. What is found
 * of the machine file (`lasts`) is set aside as it was: where the same check finds something else now, that is told as new.
 */
export function withWaiver({ name, waivers }: Machine, finding: Finding, lasts: boolean): Finding {
  const waiver = waivers?.[waiverKey(finding)];
  if (!waiver || (BY_NAME.has(finding.id) && waiver.machine !== name)) return finding;
  const { because, said } = waiver;
  if (!lasts || said === undefined || said === saidBy(finding)) return { ...finding, waived: because };
  return {
    ...finding,
    evidence: [...finding.evidence, `set aside when it was: ${said} (because ${because})`],
  };
}

/** The edit that sets a finding aside as it is now, or takes that back when there is no reason. */
export function waiveEdit(finding: Named & Pick<Finding, 'what'>, waiver?: Omit<Waiver, 'said'>): Edit {
  return {
    path: ['waivers', waiverKey(finding)],
    ...(waiver && { value: { ...waiver, said: saidBy(finding) } }),
  };
}
