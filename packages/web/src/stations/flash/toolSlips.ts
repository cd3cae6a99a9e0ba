import type { FlashRun } from '@jolly/contract/endpoints/board';
import type { Board } from '@jolly/core/board/board';
import { outcomeWords } from '@jolly/core/flash/outcomeWords';
import { by } from '@jolly/core/flash/routeWords';
import type { Slip } from '../../app/docket/slip';

/** What the last run of a tool came to. */
export function toolSlips(
  machineId: string,
  { state, route: kind, does, outcome }: FlashRun,
  board: Board,
  holds: string,
): Slip[] {
  const route = board.routes.find((entry) => entry.kind === kind);
  if (state !== 'ended' || !route || !does || !outcome) return [];
  const { severity, what, why, causes } = outcomeWords(route, does, outcome, route.load_address === 0);
  return [
    {
      id: `tool:${does}`,
      severity,
      what,
      why,
      ...(causes && { causes }),
      evidence: [
        outcome.taken && does === 'write' ? `written ${by(route)}: ${outcome.name}` : by(route),
        `the flash holds ${holds}`,
      ],
      actions:
        does === 'write' && outcome.taken
          ? [{ label: 'To Bring-up', go: `/machines/${machineId}/bring-up` }]
          : [],
    },
  ];
}
