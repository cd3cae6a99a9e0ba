import { entries, HOW_TO_LOOK, type Trains, trainsOf } from '@jolly/core/describe/fromReport';
import type { LikelyDrive } from '@jolly/core/motion/likelyDrives';
import { Button } from '@mantine/core';
import css from './Describe.module.css';
import type { Describing } from './useDescription';

const PAGE_OF = { x: 'xy', y: 'xy', z: 'z', e: 'extruder' } as const;
const MOST = 4;

/** Where the machine began from a report: which trains fit the steps/mm it tells, and what to look at to be sure. */
export function ReportTrains({ describing, page }: { describing: Describing; page: string }) {
  const all = trainsOf(describing.description).filter(({ axis }) => PAGE_OF[axis] === page);
  return all.map((trains) => (
    <Train
      key={trains.axis}
      trains={trains}
      onTake={(drive) => void describing.answer(Object.fromEntries(entries(trains.axis, drive)))}
    />
  ));
}

function Train({ trains, onTake }: { trains: Trains; onTake: (drive: LikelyDrive) => void }) {
  const { axis, stepsPerMm, ranked, lookAt } = trains;
  const name = axis === 'e' ? 'The extruder' : axis.toUpperCase();
  return (
    <section className={css.trains} aria-label={`${name} by the report`}>
      <h3>
        {name}: the report says {stepsPerMm} steps/mm
      </h3>
      {ranked.length === 0 ? (
        <p className="soft">
          Nothing that is usually sold fits this and what you answered. Count and measure what is there.
        </p>
      ) : (
        <>
          <ul>
            {ranked.slice(0, MOST).map((drive) => (
              <li key={JSON.stringify(drive)}>
                <span className="figures">{Math.round(drive.likelihood * 100)} %</span> {inWords(drive)}
                <Button
                  size="compact-xs"
                  variant="default"
                  aria-label={`It is: ${inWords(drive)}`}
                  onClick={() => onTake(drive)}
                >
                  It is
                </Button>
              </li>
            ))}
            {ranked.length > MOST && <li className="soft">and {ranked.length - MOST} less likely ones</li>}
          </ul>
          {lookAt && <p>To be sure: {HOW_TO_LOOK[lookAt]}</p>}
        </>
      )}
    </section>
  );
}

function inWords(drive: LikelyDrive): string {
  const motor = `${drive.fullSteps} steps, ${drive.microsteps} microsteps`;
  if (drive.kind === 'belt') return `belt of ${drive.pitchMm} mm, ${drive.teeth} teeth, ${motor}`;
  if (drive.kind === 'screw') return `screw that rises ${drive.leadMm} mm a turn, ${motor}`;
  const gear =
    drive.gearRatio === undefined || drive.gearRatio === 1 ? 'no gear' : `gear ${drive.gearRatio} to 1`;
  return `roller of ⌀ ${drive.diameterMm} mm, ${gear}, ${motor}`;
}
