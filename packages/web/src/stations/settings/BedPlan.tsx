import type { Settings } from '@jolly/core/settings/setting';
import { useMemo } from 'react';
import { useWorkbench } from '../../workbench/Workbench';
import css from './BedPlan.module.css';
import { PlanDrawing } from './PlanDrawing';
import { PlanLegend } from './PlanLegend';
import { planShape } from './planShape';

/** The bed plan beside the part it belongs to, only to look at. */
export function BedPlan({ settings }: { settings: Settings }) {
  const { machine } = useWorkbench();
  const shape = useMemo(() => planShape(settings), [settings]);
  return (
    <figure className={css.small}>
      <PlanDrawing machine={machine} shape={shape} />
      <figcaption>
        <PlanLegend shape={shape} />
      </figcaption>
    </figure>
  );
}
