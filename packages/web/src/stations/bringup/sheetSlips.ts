import type { ProofRow } from '@jolly/core/formats/proofSheet';
import type { Untripped } from '@jolly/core/proofs/guards';
import type { Slip } from '../../app/docket/slip';

interface Sheet {
  machine: string;
  rows: readonly ProofRow[];
  bare: readonly Untripped[];
  /** Where a setting is shown. */
  settingAt: (key: string) => string;
}

/** What keeps a proof sheet from being whole: what failed, how many steps are open, and the heaters nothing guards. */
export function sheetSlips({ machine, rows, bare, settingAt }: Sheet): Slip[] {
  const prove = { label: 'Prove it', go: `/machines/${machine}/bring-up` };
  const failed = rows.filter(({ outcome }) => outcome === 'failed');
  const count = (open: ProofRow['outcome']) => rows.filter(({ outcome }) => outcome === open).length;
  const openSlip = (id: string, many: number, are: string): Slip[] =>
    many === 0
      ? []
      : [
          {
            id,
            severity: 'todo',
            what: `${many} of ${rows.length} ${rows.length === 1 ? 'step' : 'steps'} ${are}`,
            why: 'Each is tested under Prove it, and stands on this sheet then.',
            evidence: [],
            actions: [prove],
          },
        ];
  return [
    ...failed.map(({ step, evidence, when }): Slip => ({
      id: step.id,
      severity: 'stop',
      what: `Not so: ${step.title}`,
      why: 'Go no further before this is settled.',
      evidence: [...evidence, when],
      actions: [prove],
    })),
    ...bare.map(({ called, guard, off }): Slip => ({
      id: `bare-${called}`,
      severity: 'mend',
      what: off ? `The guard of the ${called} is off.` : `No step trips the guard of the ${called}.`,
      why: off
        ? 'A heater without a guard can burn the house down. Switch it on, build and flash.'
        : 'Nobody has seen it trip. Never leave the machine alone.',
      evidence: [],
      actions: off ? [{ label: 'Show it', go: settingAt(guard) }] : [],
    })),
    ...openSlip('voided', count('voided'), 'void: something was changed after the test.'),
    ...openSlip('untested', count('unproven'), 'not tested.'),
  ];
}
