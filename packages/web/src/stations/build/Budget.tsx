import { bytesInWords } from '@jolly/core/text/bytesInWords';
import css from './BuildStation.module.css';

/** A measure of how full a memory is, filled from the left like a gauge glass. */
export function Budget({
  name,
  used,
  has,
  note,
}: {
  name: string;
  used: number;
  has: number;
  note?: string;
}) {
  const share = used / has;
  const state = share > 1 ? 'over' : share > 0.98 ? 'brim' : 'fine';
  return (
    <div className={css.budget} data-state={state}>
      <p>
        <b>{name}</b>
        <span className="figures">
          {used.toLocaleString('en')} of {has.toLocaleString('en')} bytes
        </span>
        <span className="figures">{(share * 100).toFixed(1)} %</span>
      </p>
      <div
        role="meter"
        aria-label={name}
        aria-valuemin={0}
        aria-valuemax={has}
        aria-valuenow={Math.min(used, has)}
        aria-valuetext={`${used.toLocaleString('en')} of ${bytesInWords(has)}`}
      >
        <i style={{ width: `${Math.min(100, share * 100)}%` }} />
      </div>
      <small>
        {share > 1 ? `${bytesInWords(used - has)} too many` : `${bytesInWords(has - used)} free`}
        {note ? ` · ${note}` : ''}
      </small>
    </div>
  );
}
