import type { Finding } from '@jolly/core/finding/finding';
import css from './MachineFrame.module.css';

/** A guard that is off is said on every screen, set aside or not. */
export function Unguarded({ findings }: { findings: Finding[] }) {
  const off = findings.filter(({ id }) => id === 'heat.guard-off');
  if (off.length === 0) return null;
  return (
    <p className={css.unguarded} role="status">
      <b>No thermal guard.</b> {off.map(({ what }) => what).join(' ')} Never leave this machine alone.
    </p>
  );
}
