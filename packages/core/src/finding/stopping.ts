import type { Finding } from './finding';

/** Findings that keep a machine from being built: those that stop and are not set aside. */
export const stopping = (findings: readonly Finding[]): Finding[] =>
  findings.filter(({ severity, waived }) => severity === 'stop' && waived === undefined);
