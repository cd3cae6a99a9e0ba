import { unheard } from '../settings/hearing';
import { type Facts, partsOf } from '../machine/facts';
import { sameBoardType } from '../machine/same';
import type { Said } from './consequence';
import type { Stage } from './stage';

/** Parts and headers that are left without work. */
export function idleRules({ before, after }: Stage): Said[] {
  const idsBefore = new Set(before.parts.map((part) => part.id));
  const idsAfter = new Set(after.parts.map((part) => part.id));
  const gone = before.parts.filter((part) => !idsAfter.has(part.id));
  const unused = after.parts.flatMap((part) => {
    if (idsBefore.has(part.id) || part.type.kind === 'driver') return [];
    const left = unheard(after, part);
    return left ? [{ part, left }] : [];
  });
  const swapped = !sameBoardType(before.machine.board, after.machine.board);
  const modules =
    swapped && before.board.drivers === 'plugged in' && after.board.drivers === 'soldered'
      ? partsOf(before, 'driver')
      : [];
  const rewired =
    before.machine.board.id === after.machine.board.id && before.machine.harness !== after.machine.harness;
  const freed = rewired ? freedHeaders(before, after) : [];
  return [
    ...gone.map((part): Said => ({
      kind: 'idle',
      subject: part.id,
      title: `${part.type.name} (${part.id}) has no work any more`,
      because: 'keep it in the drawer; it is part of the way back',
    })),
    ...modules.map((part): Said => ({
      kind: 'idle',
      subject: `${part.id}-module`,
      title: `${part.type.name} (${part.id}) has no work any more`,
      because: `the drivers of ${after.board.name} are soldered; keep it in the drawer; it is part of the way back`,
    })),
    ...freed.map((header): Said => ({
      kind: 'idle',
      subject: `header-${header.toLowerCase()}`,
      title: `Header ${header} becomes free`,
      because: 'what was connected there has gone',
    })),
    ...unused.map(({ part, left }): Said => ({
      kind: 'idle',
      subject: `${part.id}-unused`,
      title: `${after.kit.name} ${after.kit.version} does nothing with ${part.id} yet`,
      because: `it can be wired now; until then: ${left.without}`,
    })),
  ];
}

function freedHeaders(before: Facts, after: Facts): string[] {
  const used = ({ machine }: Facts) =>
    new Set(
      Object.values(machine.harness).flatMap((landing) =>
        'leads' in landing ? Object.values(landing.leads).map((contact) => contact.split('.')[0] ?? '') : [],
      ),
    );
  const now = used(after);
  return [...used(before)].filter((header) => !now.has(header));
}
