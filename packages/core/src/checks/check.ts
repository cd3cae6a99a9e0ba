import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { pinChecks } from './pinChecks';
import { type Finding, SEVERITIES, type Severity, type Spoken } from './finding';
import { frameChecks } from './frameChecks';
import { heatChecks } from './heatChecks';
import { homingChecks } from './homingChecks';
import { kitChecks } from './kitChecks';
import { motionChecks } from './motionChecks';
import { probeChecks } from './probeChecks';
import { supplyChecks } from './supplyChecks';
import { boardChecks } from './boardChecks';
import { plugChecks } from './plugChecks';
import { sharingChecks } from './sharingChecks';
import { switchChecks } from './switchChecks';

export interface Check {
  id: string;
  severity: Severity;
  run: (facts: Facts, settings: Settings) => Spoken[];
}

/** Every check, in the order in which equal findings are listed. */
export const CHECKS: readonly Check[] = [
  ...pinChecks,
  ...supplyChecks,
  ...switchChecks,
  ...sharingChecks,
  ...plugChecks,
  ...boardChecks,
  ...kitChecks,
  ...frameChecks,
  ...homingChecks,
  ...motionChecks,
  ...heatChecks,
  ...probeChecks,
];

/** All findings for a machine, most serious first; the same input gives the same list. */
export function check(facts: Facts, settings: Settings): Finding[] {
  const findings = CHECKS.flatMap((entry) =>
    entry.run(facts, settings).map(({ remedies = [], severity = entry.severity, ...spoken }) => ({
      id: entry.id,
      severity,
      ...spoken,
      remedies,
    })),
  );
  return SEVERITIES.flatMap((severity) => findings.filter((finding) => finding.severity === severity));
}
