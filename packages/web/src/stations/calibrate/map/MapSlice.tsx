import { heightAt } from '@jolly/core/plate/mapAt';
import type { Heights } from '@jolly/core/plate/heights';
import css from './Map.module.css';

const [WIDE, HIGH, LEFT] = [270, 96, 44];
const STEPS = 48;

/** The plate cut through a place, from left to right and from front to back. */
export function MapSlice({ map, place }: { map: Heights; place: { x: number; y: number } }) {
  const all = map.z.flat();
  const [low, top] = [Math.min(...all), Math.max(...all)];
  const range = Math.max(0.02, top - low);
  const cuts = [
    { name: `left to right, at Y ${place.y.toFixed(0)} mm`, along: map.xs, at: (way: number) => heightAt(map, way, place.y), here: place.x },
    { name: `front to back, at X ${place.x.toFixed(0)} mm`, along: map.ys, at: (way: number) => heightAt(map, place.x, way), here: place.y },
  ]; // prettier-ignore
  return (
    <div className={css.slices}>
      {cuts.map(({ name, along, at, here }) => {
        const [from, to] = [along[0] ?? 0, along.at(-1) ?? 1];
        const x = (way: number) => LEFT + ((way - from) / (to - from)) * (WIDE - LEFT - 6);
        const y = (height: number) => HIGH - 8 - ((height - low) / range) * (HIGH - 22);
        const line = Array.from({ length: STEPS + 1 }, (_, nth) => {
          const way = from + ((to - from) * nth) / STEPS;
          return `${nth === 0 ? 'M' : 'L'}${x(way).toFixed(1)} ${y(at(way)).toFixed(1)}`;
        }).join('');
        return (
          <figure key={name}>
            <figcaption>{name}</figcaption>
            <svg viewBox={`0 0 ${WIDE} ${HIGH}`} role="img" aria-label={`Cut ${name}`}>
              <path d={`M${LEFT} ${y(low)}H${WIDE - 6}M${LEFT} ${y(top)}H${WIDE - 6}`} className={css.hair} />
              <text x={LEFT - 4} y={y(top) + 4} textAnchor="end" className={css.figure}>
                {top.toFixed(2)}
              </text>
              <text x={LEFT - 4} y={y(low) + 4} textAnchor="end" className={css.figure}>
                {low.toFixed(2).replace('-', '−')}
              </text>
              <path d={line} className={css.cut} />
              <circle cx={x(here)} cy={y(at(here))} r="4.5" className={css.here} />
            </svg>
          </figure>
        );
      })}
      <p className="figures" role="status">
        {`X ${place.x.toFixed(0)} Y ${place.y.toFixed(0)}: ${heightAt(map, place.x, place.y).toFixed(3).replace('-', '−')} mm`}
      </p>
    </div>
  );
}
