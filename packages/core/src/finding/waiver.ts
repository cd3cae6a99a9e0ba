import type { Edit } from '../machine/edit';
import type { Machine, Waiver } from '../machine/machine';
import type { Finding } from './finding';

type Named = Pick<Finding, 'id' | 'subject'>;

/** Checks that are only set aside by somebody who types the name of the machine, and that stay on every screen. */
export const BY_NAME: ReadonlySet<string> = new Set(['heat.guard-off']);

/** What a waiver is kept under: the check and what it speaks about. */
export const waiverKey = ({ id, subject }: Named) => `${id} ${subject.id}`;

/** The waiver of a finding, where it holds: a check that wants the machine's name is not set aside without it. */
export function waiverFor({ name, waivers }: Machine, finding: Named): Waiver | undefined {
  const waiver = waivers?.[waiverKey(finding)];
  return waiver && (!BY_NAME.has(finding.id) || waiver.machine === name) ? waiver : undefined;
}

/** The edit that sets a finding aside, or takes that back when there is no reason. */
export function waiveEdit(finding: Named, waiver?: Waiver): Edit {
  return { path: ['waivers', waiverKey(finding)], ...(waiver && { value: waiver }) };
}
