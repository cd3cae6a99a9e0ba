import { placedLeads } from '@jolly/core/circuit/pinTable';
import type { Facts } from '@jolly/core/machine/facts';

/** Inputs that a socket's stall output is tied to, by pin. Where nobody has looked at the jumper, it is parted if a part sits there. */
export function stallLinesOf(facts: Facts): Map<number, string> {
  const taken = new Set(placedLeads(facts).flatMap(({ net }) => ('pin' in net ? [net.pin] : [])));
  return new Map(
    facts.board.sockets.flatMap(({ id, stall }): [number, string][] => {
      if (stall === undefined) return [];
      const jumper = facts.board.jumpers?.find(({ sets, of }) => sets === 'stall line' && of === id);
      const position = jumper?.positions.find((entry) => entry.id === facts.machine.jumpers?.[jumper.id]);
      const tied = position ? position.stall === 'tied' : !taken.has(stall);
      return tied ? [[stall, id]] : [];
    }),
  );
}
