import type { FlashRoute } from '@jolly/core/board/route';
import { afterwards } from '@jolly/core/flash/afterwards';
import { useWorkbench } from '../../workbench/Workbench';
import css from './RouteHead.module.css';

/** What shows which image runs, once the board was flashed, and what does not. */
export function Afterwards({ route }: { route: FlashRoute }) {
  const { facts, settings } = useWorkbench();
  return (
    <details className={css.trouble}>
      <summary>What shows afterwards which image runs</summary>
      <ul>
        {afterwards(facts, settings, route).map(({ id, says }) => (
          <li key={id}>{says}</li>
        ))}
      </ul>
    </details>
  );
}
