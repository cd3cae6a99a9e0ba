import type { Flash } from '@jolly/contract/endpoints/board';
import { whenOf } from '../../ui/when';
import css from './FlashStation.module.css';

const DID = { try: 'called', write: 'taken', bootloader: 'bootloader installed' };

/** The last attempts at writing to the board, by any route. */
export function Attempts({ flashes }: { flashes: readonly Flash[] }) {
  if (flashes.length === 0) return null;
  return (
    <section className={css.attempts} aria-label="Attempts">
      <h3>Attempts</h3>
      <ul>
        {flashes.slice(0, 6).map(({ id, outcome, at, fileName, route, does }) => (
          <li key={id} data-taken={outcome.taken}>
            <time className="figures">{whenOf(at)}</time>
            <span className="figures">{route}</span>
            <b className="figures">{fileName}</b>
            <span>{outcome.taken ? DID[does] : `left: ${outcome.because}`}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
