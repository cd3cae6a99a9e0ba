import { partById } from '@jolly/core/catalogue/catalogue';
import type { FormField } from '@jolly/core/tree/formField';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { TypedField } from '../../ui/form/TypedField';
import { useWorkbench } from '../../workbench/Workbench';
import css from './Wiring.module.css';

/** The colour of each lead of a part, as a note: two cables of one maker need not agree, so nothing rests on it. */
export function Colours({ part }: { part: string }) {
  const { machine, facts, change } = useWorkbench();
  const { refused, act } = useAct();
  const placed = machine.parts.find(({ id }) => id === part);
  const leads = (placed && partById(facts.catalogue, placed.part)?.leads) ?? [];
  if (leads.length === 0) return null;
  return (
    <details className={css.colours}>
      <summary>Colours of its leads, a note</summary>
      <div className="row">
        {leads.map(({ role }) => (
          <TypedField
            key={role}
            field={fieldOf(role)}
            value={machine.cables?.[part]?.colours?.[role]}
            onSet={(colour) =>
              void act(() =>
                change(`${part}: colour of its ${role} lead`, [
                  { path: ['cables', part, 'colours', role], value: colour },
                ]),
              )
            }
          />
        ))}
      </div>
      <Refused why={refused} />
    </details>
  );
}

const fieldOf = (role: string): FormField => ({ path: [role], is: 'text', label: role });
