import { useRouteError } from 'react-router';
import css from './NotKnown.module.css';

/** In the place of a station that cannot be shown, so that link, bench and Stop go on. */
export function StationBroken() {
  const error = useRouteError();
  return (
    <main className={css.notKnown}>
      <div role="alert">
        <h2>This station cannot be shown</h2>
        <p>{error instanceof Error ? error.message : 'It was not found.'}</p>
        <p>Link and bench go on as they are. When the server answers, load the page again.</p>
      </div>
    </main>
  );
}
