import type { PartId } from '@jolly/session/machineParts';
import css from './Tool.module.css';
import { toolsFor } from './tools';

/** The tools that work something out for a part of the machine, to be laid beside it when they are asked for. */
export function ToolChoice({
  part,
  chosen,
  choose,
}: {
  part: PartId;
  chosen: string | undefined;
  choose: (id: string | undefined) => void;
}) {
  const tools = toolsFor(part);
  if (tools.length === 0) return null;
  return (
    <section className={css.choice} aria-label="Tools">
      <h3>Work it out</h3>
      <ul>
        {tools.map(({ id, title }) => (
          <li key={id}>
            <button
              type="button"
              aria-expanded={id === chosen}
              onClick={() => choose(id === chosen ? undefined : id)}
            >
              {title}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
