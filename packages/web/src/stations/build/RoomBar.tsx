import type { Cost, MeasuredFeature } from '@jolly/core/fit/chooseFit';
import css from './FitView.module.css';

/** Letters that the whole plank has room for; a name that would be cut is told when pointed at. */
const LETTERS = 100;

/**
 * A memory as a plank: the firmware without its features, then each feature with its width, those left out hatched; a mark
 * where the memory ends and one where the brim begins.
 */
export function RoomBar({
  name,
  has,
  room,
  kind,
  whole,
  features,
  dropped,
}: {
  name: string;
  /** Bytes the chip has. */
  has: number;
  /** Bytes up to the brim. */
  room: number;
  kind: keyof Cost;
  whole: Cost;
  features: readonly MeasuredFeature[];
  dropped: ReadonlySet<string>;
}) {
  const rest = Math.max(0, whole[kind] - features.reduce((sum, { cost }) => sum + cost[kind], 0));
  const left = features.filter(({ key }) => dropped.has(key));
  const kept = features.filter(({ key }) => !dropped.has(key));
  const widest = Math.max(has, rest + features.reduce((sum, { cost }) => sum + cost[kind], 0)) * 1.02;
  const share = (bytes: number) => `${(100 * bytes) / widest}%`;
  return (
    <figure className={css.plank}>
      <figcaption>
        <b>{name}</b>
        <span className="figures">
          {whole[kind].toLocaleString('en')} of {has.toLocaleString('en')} bytes with everything that is on
        </span>
      </figcaption>
      <div className={css.wood} role="img" aria-label={`${name}: ${whole[kind]} of ${has} bytes`}>
        <span
          className={css.rest}
          style={{ width: share(rest) }}
          title={`the firmware itself: ${rest} bytes`}
        >
          firmware itself
        </span>
        {[...kept, ...left].map(({ key, label, cost }) => (
          <span
            key={key}
            className={css.piece}
            data-dropped={dropped.has(key)}
            style={{ width: share(cost[kind]) }}
            title={`${label}: ${cost[kind]} bytes${dropped.has(key) ? ', left out' : ''}`}
          >
            {(cost[kind] / widest) * LETTERS > label.length + 1 ? label : ''}
          </span>
        ))}
        <i
          className={css.brim}
          style={{ left: share(room), width: share(has - room) }}
          title="the last 2 %"
        />
        <i className={css.end} style={{ left: share(has) }} title={`${name} ends here`} />
      </div>
    </figure>
  );
}
