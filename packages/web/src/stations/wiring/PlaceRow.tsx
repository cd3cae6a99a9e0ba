import type { RankedLanding } from '@jolly/core/harness/rankLandings';
import { landingInWords } from '@jolly/core/ripple/leadRules';
import type { KeyboardEvent } from 'react';

/** One place a lead could go: its price, where it is, and what speaks against it. */
export function PlaceRow({
  place,
  mark,
  name,
  here = false,
  priced = false,
  onLand,
  onKeyDown,
}: {
  place: RankedLanding;
  /** A word behind the place. */
  mark?: string | false;
  /** What it is called where the words alone do not say it. */
  name?: string;
  /** The lead is there already. */
  here?: boolean;
  /** Each reason with its points. */
  priced?: boolean;
  onLand: () => void;
  onKeyDown?: (event: KeyboardEvent<HTMLButtonElement>) => void;
}) {
  const taken = place.clashes.length > 0;
  const reasons = taken
    ? place.clashes.map(({ what }) => what)
    : place.lines.map(({ points, what }) => (priced ? `${points} ${what}` : what));
  return (
    <li data-taken={taken}>
      <button
        data-landing=""
        disabled={here || taken}
        aria-label={name}
        onClick={onLand}
        onKeyDown={onKeyDown}
      >
        <b className="figures">{place.price}</b>
        <span>
          {landingInWords(place.landing)}
          {mark && <em> {mark}</em>}
          <small>{reasons.join('; ') || 'made for it'}</small>
        </span>
      </button>
    </li>
  );
}
