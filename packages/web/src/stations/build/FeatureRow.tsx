import type { MeasuredFeature } from '@jolly/core/fit/chooseFit';
import { Checkbox, Slider } from '@mantine/core';
import css from './FitView.module.css';
import type { Fit } from './useFit';

/** What the columns are. */
export function FeatureHead({ plain }: { plain: boolean }) {
  return (
    <div className={`${css.feature} ${css.columns}`} data-plain={plain} aria-hidden="true">
      <span>feature</span>
      <span />
      <span>flash, bytes</span>
      <span>RAM, bytes</span>
      <span>{plain ? '' : 'what it is worth to you: drag'}</span>
    </div>
  );
}

/** A feature with what it takes; where something must go, also what it is worth to you, by dragging, and whether it stays. */
export function FeatureRow({
  feature,
  fit,
  dropped,
  largest,
  tooLarge = false,
}: {
  feature: MeasuredFeature;
  /** Missing where nothing has to be left out. */
  fit: Fit | undefined;
  dropped: boolean;
  /** The flash of the largest, in bytes. */
  largest: number;
  tooLarge?: boolean;
}) {
  const { key, label, cost, without, on, neededBy } = feature;
  return (
    <li className={css.feature} data-dropped={dropped} data-plain={fit === undefined}>
      <span className={css.name}>
        <b>{label}</b>
        <small>
          {dropped ? 'left out' : on ? 'kept' : tooLarge ? 'would not fit' : 'off'}
          {neededBy.length > 0 && ` · goes with ${neededBy.join(', ')}`}
          {fit?.came.has(key) && ' · came with the job'}
        </small>
      </span>
      <i aria-hidden="true">
        <i style={{ width: `${Math.min(100, (100 * cost.flash) / Math.max(1, largest))}%` }} />
      </i>
      <span className="figures">{cost.flash.toLocaleString('en')}</span>
      <span className="figures">{cost.ram.toLocaleString('en')}</span>
      {fit ? (
        <>
          <Slider
            className={css.worth ?? ''}
            min={0}
            max={9}
            step={1}
            size="sm"
            value={fit.worth(key)}
            onChange={(worth) => fit.setWorth(key, worth)}
            thumbLabel={`What ${label} is worth to you`}
            disabled={fit.stays(key)}
          />
          <Checkbox
            size="xs"
            label="stays"
            aria-label={`${label} stays`}
            checked={fit.stays(key)}
            onChange={(event) => fit.setStays(key, event.currentTarget.checked)}
          />
        </>
      ) : (
        <span className={css.loss}>
          {!on && cost.flash + cost.ram === 0
            ? 'Nothing comes in with it as the machine is wired now.'
            : `${on ? 'Without it' : 'Without it, as now'}: ${without}`}
        </span>
      )}
    </li>
  );
}
