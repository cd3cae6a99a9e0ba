import { calibrationsOf } from '../calibration/calibrations';
import type { Said } from './consequence';
import type { Stage } from './stage';
import { factInWords, touchedBy } from '../machine/touched';

/** Proofs that are void because a fact they rest on changed, or that exist only now. */
export function proofRules({ proofsBefore, proofsAfter, touched }: Stage): Said[] {
  const known = new Set(proofsBefore.map((step) => step.id));
  return proofsAfter.flatMap((step): Said[] => {
    const fact = touchedBy(touched, step.restsOn);
    const isNew = !known.has(step.id);
    if (!fact && !isNew) return [];
    return [
      {
        kind: 'proof',
        subject: step.id,
        title: step.title,
        because:
          fact && !isNew ? `it rests on ${factInWords(fact)}` : 'there was nothing like it to prove before',
      },
    ];
  });
}

/** Calibrations that fall due because a fact they rest on changed. */
export function calibrationRules({ after, touched }: Stage): Said[] {
  return calibrationsOf(after).flatMap((calibration): Said[] => {
    const fact = touchedBy(touched, calibration.restsOn);
    return fact
      ? [
          {
            kind: 'calibration',
            subject: calibration.id,
            title: calibration.title,
            because: `it belongs to ${factInWords(fact)}`,
          },
        ]
      : [];
  });
}
