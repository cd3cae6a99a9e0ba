import type { PlantView } from '@jolly/bench';
import { fanCalled } from '@jolly/core/machine/fanCalled';
import { type Facts, partsOf } from '@jolly/core/machine/facts';
import { secondMotor } from '@jolly/core/machine/secondMotor';
import css from './Eyes.module.css';

const SHARES: readonly [number, string][] = [
  [0.9, 'turns'],
  [0.1, 'crawls'],
  [0, 'stands'],
];
const fanInWords = (share: number) => SHARES.find(([from]) => share >= from)?.[1] ?? 'stands';
/** A servo's arm at this pulse stands straight up, in µs, and turns by a degree for so many. */
const UPRIGHT_US = 1500;
const US_A_DEGREE = 10;

/** What you would see and hear standing before the machine: fans, the probe's pin, arms, lamps, filament, the beeper. */
export function Eyes({ facts, view }: { facts: Facts; view: PlantView }) {
  const { fans, servos, lamps, probe, pressed, beeperHz, position, secondFilamentMm, hums } = view;
  const hasPin = partsOf(facts, 'probe').some(({ type }) => type.sense === 'pin');
  return (
    <ul className={css.eyes} aria-label="What you see">
      {partsOf(facts, 'fan').map(({ id, role }) => (
        <li key={id}>
          <Rotor share={fans[id] ?? 0} /> {fanCalled(role)} {fanInWords(fans[id] ?? 0)}
        </li>
      ))}
      {probe && (
        <li>
          {/* One that senses metal, or the nozzle's touch, has nothing that goes out. */}
          {hasPin ? `probe: pin ${probe.deployed ? 'out' : 'in'}` : 'probe: '}
          {probe.triggered ? `${hasPin ? ', ' : ''}met` : !hasPin && 'free'}
        </li>
      )}
      {partsOf(facts, 'servo').map(({ id, role }) => (
        <li key={id}>
          <svg viewBox="-10 -10 20 20" aria-hidden>
            <circle r="8" className={css.dial} />
            {(servos[id] ?? 0) > 0 && (
              <path d="M0 0V-8" className={css.arm} transform={`rotate(${((servos[id] ?? 0) - UPRIGHT_US) / US_A_DEGREE})`} />
            )}
          </svg>{' '}
          servo of the {role} {(servos[id] ?? 0) > 0 ? 'holds its arm' : 'hangs loose'}
        </li>
      ))}
      {partsOf(facts, 'lamp').map(({ id }) => (
        <li key={id}>lamp {(lamps[id] ?? 0) > 0 ? 'lit' : 'dark'}</li>
      ))}
      {Object.entries(pressed)
        .filter(([, on]) => on)
        .map(([id]) => (
          <li key={id}>{id} pressed</li>
        ))}
      <li>
        filament drive at <b className="figures">{position.e.toFixed(1)} mm</b>
        {secondMotor(facts, 'e') && (
          <>
            , the second at <b className="figures">{secondFilamentMm.toFixed(1)} mm</b>
          </>
        )}
      </li>
      {hums.map((axis) => (
        <li key={`hums ${axis}`}>{axis === 'e' ? 'extruder' : axis.toUpperCase()} motor hums and trembles</li>
      ))}
      {beeperHz > 0 && <li>it beeps</li>}
    </ul>
  ); // prettier-ignore
}

/** Blades that turn as fast as the fan does. */
function Rotor({ share }: { share: number }) {
  return (
    <svg viewBox="-10 -10 20 20" aria-hidden>
      <g
        className={css.rotor}
        data-turns={share > 0.1}
        style={{ animationDuration: `${0.5 / Math.max(0.1, share)}s` }}
      >
        {[0, 120, 240].map((turn) => (
          <path key={turn} d="M0 0C-4-3-3-8 1-9C2-5 2-3 0 0Z" transform={`rotate(${turn})`} />
        ))}
      </g>
    </svg>
  );
}
