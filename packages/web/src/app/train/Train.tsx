import { Tooltip, VisuallyHidden } from '@mantine/core';
import { NavLink } from 'react-router';
import { brokenToothPath, type CogSize, cogSize, meshedRotations, toothPath } from './cogShape';
import type { StationTeeth, Tooth } from '@jolly/session/progress';
import css from './Train.module.css';

const TOOTH_PITCH = 24;
/** Radii between which every cog stays, so that eight of them fit above the bench. */
const SMALLEST = 31;
const LARGEST = 38;
/** A wheel without teeth still has to turn with its neighbours. */
const BLANK_TEETH = 8;
/** The cog you are at comes forward. */
const FORWARD = 1.12;

/** The train: one cog a station, one tooth a thing to do, meshed from left to right in working order. */
export function Train({
  stations,
  machineId,
  at,
  waiting,
}: {
  stations: StationTeeth[];
  machineId: string;
  at: string;
  /** What a job asks for is still being computed. */
  waiting: boolean;
}) {
  const cogs = stations.map((station) => ({
    station,
    size: cogSize(station.teeth.length || BLANK_TEETH, TOOTH_PITCH, SMALLEST, LARGEST),
  }));
  const done = stations.flatMap((station) => station.teeth).filter((tooth) => tooth.state === 'done').length;
  const rotations = meshedRotations(
    cogs.map(({ size }) => size),
    done,
  );
  return (
    <nav className={css.train} aria-label="Stations">
      <ol>
        {cogs.map(({ station, size }, index) => {
          const here = station.id === at;
          const reach = size.tipRadius * (here ? FORWARD : 1) + 2;
          return (
            <li
              key={station.id}
              style={{ width: size.pitchRadius * (here ? FORWARD + 1 : 2) }}
              data-here={here}
              data-idle={station.teeth.length === 0 && !waiting}
            >
              <Tooltip label={toDoInWords(station)} multiline maw={320} openDelay={400}>
                <NavLink to={`/machines/${machineId}/${station.id}`}>
                  <svg
                    width={2 * reach}
                    height={2 * reach}
                    viewBox={`${-reach} ${-reach} ${2 * reach} ${2 * reach}`}
                    aria-hidden="true"
                  >
                    <g transform={here ? `scale(${FORWARD})` : undefined}>
                      <g className={css.turning} style={{ transform: `rotate(${rotations[index]}rad)` }}>
                        {station.teeth.map((tooth, position) => (
                          <path
                            key={tooth.id}
                            className={css.tooth}
                            data-state={tooth.state}
                            d={shape(tooth, size, (position * 2 * Math.PI) / size.teeth)}
                          />
                        ))}
                        <circle className={css.body} r={size.bodyRadius} />
                      </g>
                      <circle className={css.hub} r={size.bodyRadius * 0.52} />
                      <text className={css.number} dy="0.36em">
                        {index + 1}
                      </text>
                    </g>
                  </svg>
                  <span className={css.label}>
                    {station.title}
                    <VisuallyHidden>{waiting ? ', one moment' : doneInWords(station)}</VisuallyHidden>
                  </span>
                </NavLink>
              </Tooltip>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

function shape(tooth: Tooth, size: CogSize, angle: number): string {
  return tooth.state === 'stopped' ? brokenToothPath(size, angle) : toothPath(size, angle);
}

function doneInWords({ teeth, idle }: StationTeeth): string {
  if (teeth.length === 0) return `, ${idle}`;
  const done = teeth.filter((tooth) => tooth.state === 'done').length;
  const stopped = teeth.filter((tooth) => tooth.state === 'stopped').length;
  return `, ${done} of ${teeth.length} done${stopped > 0 ? `, ${stopped} stopped` : ''}`;
}

const MOST_NAMED = 8;

/** What is left at a station, for whoever points at its cog. A tooth is named by what is so once it is done: without *not yet* it would say that it is. */
function toDoInWords({ title, teeth, idle }: StationTeeth): string {
  const left = teeth.filter((tooth) => tooth.state !== 'done').map((tooth) => tooth.title);
  if (teeth.length === 0) return `${title}: ${idle}`;
  if (left.length > MOST_NAMED)
    return `${title}, not yet: ${left.slice(0, MOST_NAMED).join(' · ')} · and ${left.length - MOST_NAMED} more`;
  return left.length === 0 ? `${title}: nothing left to do` : `${title}, not yet: ${left.join(' · ')}`;
}
