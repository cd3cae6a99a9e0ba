import type { PlantView } from '@jolly/bench';
import type { Facts } from '@jolly/core/machine/facts';
import css from './MachineView.module.css';

/** How wide the machine is drawn from the front. */
export const FRONT_WIDE = 110;

/** The machine from the front, beside the look from above: how far the nozzle is from the plate, and which of the two goes up and down. */
export function FrontView({
  facts,
  view,
  probeX,
  at: { left, top, height },
}: {
  facts: Facts;
  view: PlantView | undefined;
  /** Where the probe is beside the nozzle, in mm. */
  probeX: number | undefined;
  at: { left: number; top: number; height: number };
}) {
  const { travel_mm: travel, kinematics } = facts.machine.frame;
  const plateMoves = kinematics === 'lifting-bed';
  const bottom = top + height;
  const position = view?.position;
  const high = ((position?.z ?? travel.z[0]) - travel.z[0]) * ((height - 16) / (travel.z[1] - travel.z[0]));
  const nozzle = plateMoves ? top + 12 : bottom - 4 - high;
  const plate = plateMoves ? nozzle + high : bottom - 4;
  const scale = (FRONT_WIDE - 24) / (travel.x[1] - travel.x[0]);
  const x = left + 12 + ((position?.x ?? travel.x[0]) - travel.x[0]) * scale;
  return (
    <g>
      <rect className={css.gauge} x={left} y={top - 4} width={FRONT_WIDE} height={height + 8} rx="3" />
      <text className={css.text} x={left + FRONT_WIDE / 2} y={top - 9}>
        from the front
      </text>
      <rect
        className={css.bed}
        data-hot={(view?.temperatureC.bed ?? 0) > 45}
        x={left + 8}
        y={plate}
        width={FRONT_WIDE - 16}
        height="4"
      />
      {position && (
        <g>
          <path className={css.beam} d={`M${left + 3} ${nozzle - 12}h${FRONT_WIDE - 6}`} />
          <rect className={css.head} x={x - 8} y={nozzle - 18} width="16" height="14" rx="2" />
          <path
            className={css.nozzle}
            data-hot={(view.temperatureC.hotend ?? 0) > 50}
            d={`M${x - 3} ${nozzle - 4}h6l-3 4z`}
          />
          {probeX !== undefined && view.probe && (
            <path
              className={css.pin}
              data-out={view.probe.deployed}
              data-met={view.probe.triggered}
              d={`M${x + probeX * scale} ${nozzle - 8}v${view.probe.deployed ? 9 : 4}`}
            />
          )}
        </g>
      )}
    </g>
  );
}
