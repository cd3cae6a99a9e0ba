import type { Plugging } from '@jolly/core/firstPower/plugging';
import css from './FirstPowerView.module.css';

/** What may be plugged or pulled meanwhile. */
export function PluggingTable({ rows }: { rows: readonly Plugging[] }) {
  return (
    <details className={css.plugging}>
      <summary>
        May be plugged or pulled now: {rows.filter(({ may }) => may).map(({ thing }) => thing).join(', ')}
      </summary>
      <table className="lines">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">Now</th>
            <th scope="col">Because</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ id, thing, may, because }) => (
            <tr key={id}>
              <th scope="row">{thing}</th>
              <td>{may ? 'yes' : 'no'}</td>
              <td>{because}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
} // prettier-ignore
