import type { Facts } from '../machine/facts';
import type { Said } from './consequence';
import type { Stage } from './stage';

/** Parts and headers that are left without work. */
export function idleRules({ before, after }: Stage): Said[] {
  const is = new Map(after.parts.map((part) => [part.id, part]));
  const gone = before.parts.filter((part) => !is.has(part.id));
  const options = new Set(after.kit.options.map((option) => option.part));
  const unused = after.parts.filter(
    (part) =>
      !before.parts.some((old) => old.id === part.id) &&
      ['filament-sensor', 'servo', 'display', 'lamp'].includes(part.type.kind) &&
      !options.has(part.type.kind),
  );
  const freed = before.machine.board.id === after.machine.board.id ? freedHeaders(before, after) : [];
  return [
    ...gone.map((part): Said => ({
      kind: 'idle',
      subject: part.id,
      title: `${part.type.name} (${part.id}) has no work any more`,
      because: 'keep it in the drawer; it is part of the way back',
    })),
    ...freed.map((header): Said => ({
      kind: 'idle',
      subject: `header-${header.toLowerCase()}`,
      title: `Header ${header} becomes free`,
      because: 'what was connected there has gone',
    })),
    ...unused.map((part): Said => ({
      kind: 'idle',
      subject: `${part.id}-unused`,
      title: `${after.kit.name} ${after.kit.version} has no use for ${part.id} yet`,
      because: 'it can be wired now; its option comes with a later kit',
    })),
  ];
}

function freedHeaders(before: Facts, after: Facts): string[] {
  const used = ({ machine }: Facts) =>
    new Set(
      Object.values(machine.harness).flatMap((landing) =>
        'leads' in landing ? Object.values(landing.leads).map((contact) => contact.split('.')[0]!) : [],
      ),
    );
  const now = used(after);
  return [...used(before)].filter((header) => !now.has(header));
}
