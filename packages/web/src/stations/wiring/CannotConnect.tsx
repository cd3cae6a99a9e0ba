import type { Unmeetable } from '@jolly/core/harness/findHarness';

/** Parts that have no place together, with what they want and why not all can have it. */
export function CannotConnect({ list }: { list: readonly Unmeetable[] }) {
  return list.map(({ parts, because, smallest }) => (
    <p key={parts.join()} role="note">
      <strong>{parts.join(', ')} cannot be connected.</strong> {because.join('; ')}.
      {!smallest && ' Perhaps fewer of them would do to show it.'}
    </p>
  ));
}
