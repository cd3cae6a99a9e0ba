import type { Proof } from '@jolly/contract/endpoints/board';
import { sensorTable } from '@jolly/core/proofs/sensorTable';
import { useWorkbench } from '../../workbench/Workbench';
import css from './SensorTable.module.css';

/** Which reading moved while which sensor was warmed; told when one moved that should not, or none did. */
export function SensorTable({ proofs }: { proofs: readonly Proof[] }) {
  const { facts } = useWorkbench();
  const table = sensorTable(facts, proofs);
  if (!table) return null;
  return (
    <table className={css.table}>
      <caption>Sensor by port: what rose while you warmed it, in °C</caption>
      <thead>
        <tr>
          <th scope="col">You warmed</th>
          <th scope="col">planned on</th>
          {table.bodies.map((body) => (
            <th key={body} scope="col">
              {body} reads
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.rows.map(({ warmed, port, rises }) => (
          <tr key={warmed}>
            <th scope="row">{warmed}</th>
            <td className="figures">{port}</td>
            {rises.map(({ body, rise, moved, own }) => (
              <td key={body} className="figures" data-moved={moved} data-own={own}>
                {rise === undefined ? 'not tested' : rise.toFixed(1)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      {table.says && (
        <tfoot>
          <tr>
            <td colSpan={2 + table.bodies.length}>{table.says}</td>
          </tr>
        </tfoot>
      )}
    </table>
  );
}
