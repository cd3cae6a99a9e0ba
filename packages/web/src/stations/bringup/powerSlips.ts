import type { PowerNote } from '@jolly/contract/endpoints/firstPower';
import type { MeterRow } from '@jolly/core/firstPower/metering';
import type { Stage } from '@jolly/core/firstPower/stages';
import type { Slip } from '../../app/docket/slip';
import { judged, saidOf } from './powerNotes';

/** What does not fit, and how much is left to look at and to measure; nothing only when all of it was, and fits. */
export function powerSlips(
  rows: readonly MeterRow[],
  stages: readonly Stage[],
  notes: readonly PowerNote[],
): Slip[] {
  const readings = [...rows, ...stages.flatMap(({ rails }) => rails)].map((row) => {
    const said = saidOf(notes, row.id, row.expect);
    return { row, said, verdict: judged(row, said) };
  });
  const wrong = readings.flatMap(({ row, said, verdict }): Slip[] =>
    !verdict || verdict.fits
      ? []
      : [
          {
            id: row.id,
            severity: 'stop',
            what: `${row.what}: ${said} does not fit.`,
            why: `Expected ${row.expect}. Do not go on before it is settled.`,
            evidence: [`${row.from} to ${row.to}`],
            causes: verdict.causes,
            actions: [],
          },
        ],
  );
  const open = readings.filter(({ verdict }) => !verdict).length;
  const looks = stages
    .flatMap(({ looks: all }) => all)
    .filter(({ id, what }) => saidOf(notes, id, what) === undefined).length;
  if (open + looks === 0) return wrong;
  const left = [
    ...(looks > 0 ? [`${looks} ${looks === 1 ? 'thing' : 'things'} to look at`] : []),
    ...(open > 0 ? [`${open} ${open === 1 ? 'reading' : 'readings'}`] : []),
  ];
  return [
    ...wrong,
    {
      id: 'left',
      severity: 'todo',
      what: 'First power is not through.',
      why: `Open: ${left.join(', ')}.`,
      evidence: [],
      actions: [],
    },
  ];
}
