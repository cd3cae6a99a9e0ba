import css from './BedPlan.module.css';
import type { PlanShape } from './planShape';

/** What the lines and marks of a bed plan mean. */
export function PlanLegend({ shape }: { shape: PlanShape }) {
  return (
    <ul className={css.legend}>
      <li data-kind="bed">plate</li>
      <li data-kind="travel">nozzle travel</li>
      {shape.reach && <li data-kind="reach">probe reach, {Math.round(shape.reach.share * 100)} %</li>}
      <li data-kind="crash">beside the plate</li>
      {shape.byProbe && <li data-kind="spot">Z home spot</li>}
      {shape.byProbe && <li data-kind="nozzle">nozzle then</li>}
      {shape.map && <li data-kind="point">map point</li>}
      <li data-kind="corner">homing corner</li>
    </ul>
  );
}
