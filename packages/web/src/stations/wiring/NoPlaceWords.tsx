import type { NoPlace } from '@jolly/core/harness/whyNoPlace';
import css from './Wiring.module.css';

/** Why a part has no place, and what would help: a refusal without both is no answer. */
export function NoPlaceWords({ nowhere }: { nowhere: NoPlace | undefined }) {
  if (!nowhere) return null;
  return (
    <div role="note">
      <p>
        <strong>It has no place here:</strong> {nowhere.reasons.join('; ')}.
      </p>
      {nowhere.helps.length > 0 && (
        <ul className={css.cost}>
          {nowhere.helps.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </div>
  );
}
