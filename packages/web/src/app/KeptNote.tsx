import { Refused } from '../ui/Refused';
import type { Saved } from '@jolly/session/longWork';

/** How what was changed last stands. */
export function KeptNote({ saved, what }: { saved: Saved; what: string }) {
  if (typeof saved === 'object') return <Refused why={`Not kept: ${saved.refused}`} />;
  return (
    <p className="soft" role="status">
      {saved === 'saving' ? 'Keeping it …' : `${what} is kept`}
    </p>
  );
}
