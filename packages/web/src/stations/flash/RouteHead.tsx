import type { FlashRoute } from '@jolly/core/board/route';
import { routeWords } from '@jolly/core/flash/routeWords';
import { NotTakenOver } from '../../job/NotTakenOver';
import { useWorkbench } from '../../workbench/Workbench';
import css from './RouteHead.module.css';

/** What there is to know of a route before one takes it. */
export function RouteHead({ route, why }: { route: FlashRoute; why: string | undefined }) {
  const { board, chip } = useWorkbench();
  const { title, takeIt, needs, power, costs } = routeWords(route, board, chip);
  return (
    <>
      <NotTakenOver>What is flashed here is the board of the machine file.</NotTakenOver>
      <h2>
        {title}, to {board.name}
      </h2>
      <p className="soft">{why ?? takeIt}</p>
      <dl className={css.facts}>
        <div>
          <dt>On the table</dt>
          <dd>{needs.map(({ what }) => what).join('; ') || 'nothing'}</dd>
        </div>
        <div>
          <dt>Power</dt>
          <dd>{power}</dd>
        </div>
        <div>
          <dt>What stays, what it costs</dt>
          <dd>{costs.join(' ')}</dd>
        </div>
      </dl>
    </>
  );
}

/** What may be seen to go wrong on a route, and the way out. */
export function RouteTrouble({ route }: { route: FlashRoute }) {
  const { board, chip } = useWorkbench();
  return (
    <details className={css.trouble}>
      <summary>What can go wrong, and the way out</summary>
      <table className="lines">
        <thead>
          <tr>
            <th scope="col">You see</th>
            <th scope="col">Because</th>
            <th scope="col">Way out</th>
          </tr>
        </thead>
        <tbody>
          {routeWords(route, board, chip).trouble.map(({ sees, because, out }) => (
            <tr key={sees}>
              <th scope="row">{sees}</th>
              <td>{because}</td>
              <td>{out}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
