import { FAULTS } from '@jolly/bench';
import { standsIn } from '@jolly/core/bringup/handAct';
import { Checkbox } from '@mantine/core';
import { useBench, usePowered } from '../../bench/BenchProvider';
import css from './FaultDrawer.module.css';

/** Everything that can be wrong with the machine on the bench, to be laid and taken back by name. */
export function FaultDrawer() {
  const { hand } = useBench();
  const hands = usePowered((now) => now.hands);
  const laid = FAULTS.filter(({ name }) => standsIn(hands, { lay: name, on: true }));
  return (
    <details className={css.drawer}>
      <summary>Faults of the bench: {laid.length === 0 ? 'none laid' : `${laid.length} laid`}</summary>
      <p className="soft">
        They are in the machine on the bench only, to try what finds them. What is proven with one laid is
        proven of a machine with that fault.
      </p>
      <ul>
        {FAULTS.map(({ name, what, around }) => (
          <li key={name}>
            <Checkbox
              size="xs"
              label={what}
              description={`${name}${around ? ' · from the next flashing or switching on' : ''}`}
              checked={standsIn(hands, { lay: name, on: true })}
              onChange={(event) => hand({ lay: name, on: event.currentTarget.checked })}
            />
          </li>
        ))}
      </ul>
    </details>
  );
}
