import { type Finding, SEVERITIES } from '../finding/finding';
import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { cardChecks } from './cardChecks';
import type { Check } from './check';
import type { MachineRecord } from './record';
import { levelChecks } from './levelChecks';
import { pinChecks } from './pinChecks';
import { frameChecks } from './frameChecks';
import { heatChecks } from './heatChecks';
import { sensorChecks } from './sensorChecks';
import { homingChecks } from './homingChecks';
import { kitChecks } from './kitChecks';
import { motionChecks } from './motionChecks';
import { probeChecks } from './probeChecks';
import { supplyChecks } from './supplyChecks';
import { boardChecks } from './boardChecks';
import { contactChecks } from './contactChecks';
import { driveChecks } from './driveChecks';
import { driverChecks } from './driverChecks';
import { extrudeChecks } from './extrudeChecks';
import { foreignChecks } from './foreignChecks';
import { guardChecks } from './guardChecks';
import { identityChecks } from './identityChecks';
import { storeChecks } from './storeChecks';
import { mapChecks } from './mapChecks';
import { recordChecks } from './recordChecks';
import { needsChecks } from './needsChecks';
import { notKnownChecks } from './notKnownChecks';
import { servoChecks } from './servoChecks';
import { withWaiver } from '../finding/waiver';
import { overruledChecks } from './overruledChecks';
import { plugChecks } from './plugChecks';
import { sharingChecks } from './sharingChecks';
import { stallChecks } from './stallChecks';
import { switchChecks } from './switchChecks';
import { nudgeChecks } from './nudgeChecks';

/** Every check, in the order in which equal findings are listed. */
export const CHECKS: readonly Check[] = [
  ...pinChecks,
  ...levelChecks,
  ...supplyChecks,
  ...switchChecks,
  ...sharingChecks,
  ...plugChecks,
  ...contactChecks,
  ...boardChecks,
  ...kitChecks,
  ...identityChecks,
  ...storeChecks,
  ...frameChecks,
  ...notKnownChecks,
  ...homingChecks,
  ...stallChecks,
  ...driveChecks,
  ...motionChecks,
  ...driverChecks,
  ...servoChecks,
  ...needsChecks,
  ...overruledChecks,
  ...heatChecks,
  ...sensorChecks,
  ...extrudeChecks,
  ...guardChecks,
  ...foreignChecks,
  ...probeChecks,
  ...mapChecks,
  ...nudgeChecks,
  ...cardChecks,
  ...recordChecks,
];

/**
 * All findings for a machine, most serious first; the same input gives the same list. A finding that is set aside
 * says so and stays in the list. Checks that need a piece of the record that is missing do not speak.
 */
export function check(facts: Facts, settings: Settings, record: MachineRecord = {}): Finding[] {
  const findings = CHECKS.flatMap((entry) =>
    entry.run(facts, settings, record).map(({ remedies = [], severity = entry.severity, ...spoken }) => {
      const finding = { id: entry.id, severity, ...spoken, remedies };
      return withWaiver(facts.machine, finding, entry.needs === undefined);
    }),
  );
  return SEVERITIES.flatMap((severity) => findings.filter((finding) => finding.severity === severity));
}
