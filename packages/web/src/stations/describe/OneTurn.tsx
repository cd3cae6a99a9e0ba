import type { Answers } from '@jolly/core/describe/question';
import { type LikelyDrive, likelyDrives } from '@jolly/core/motion/likelyDrives';
import { Button, TextInput } from '@mantine/core';
import { useState } from 'react';
import { readNumber } from '../../ui/readNumber';
import css from './Describe.module.css';

const AXES_OF: Readonly<Record<string, readonly ('x' | 'y' | 'z')[]>> = { xy: ['x', 'y'], z: ['z'] };
/** One motor stands for all: what a turn moves does not depend on how finely it is stepped. */
const MOTOR = { fullSteps: 200, microsteps: 16 } as const;
/** A turn by hand is measured no better. */
const TOLERANCE_PCT = 4;
const TURNS = 5;
const SHOWN = 4;

/** Teeth that cannot be counted, a screw nobody can read: what five turns of the shaft moved tells them. */
export function OneTurn({ page, onAnswer }: { page: string; onAnswer: (given: Answers) => void }) {
  return (AXES_OF[page] ?? []).map((axis) => <Turns key={axis} axis={axis} onAnswer={onAnswer} />);
}

function Turns({ axis, onAnswer }: { axis: 'x' | 'y' | 'z'; onAnswer: (given: Answers) => void }) {
  const [typed, setTyped] = useState('');
  const mm = readNumber(typed, 'mm');
  const found = mm !== undefined && mm > 0 ? trainsFor(axis, mm / TURNS) : undefined;
  const name = axis.toUpperCase();
  return (
    <details className={css.helper}>
      <summary>{name}: not to be counted? Measure {TURNS} turns</summary>
      <svg viewBox="0 0 300 74" className={css.turn} role="img" aria-label={`Mark the shaft of ${name}, turn it ${TURNS} times, measure how far the axis went`}>
        <circle cx="44" cy="37" r="20" className={css.fixed} />
        <path d="M44 37V19" className={css.moves} />
        <path d="M26 13a30 30 0 0 1 38 2" className={css.moves} />
        <path d="M66 37h150" className={css.belt} />
        <rect x="116" y="26" width="22" height="22" className={css.nozzleBlock} />
        <rect x="216" y="26" width="22" height="22" className={css.nozzleBlock} />
        <path d="M127 60h100M127 55v10M227 55v10" className={css.moves} />
        <text x="160" y="72" className={css.size}>mm</text>
      </svg>
      <p className="soft">
        Unplug. Mark the motor’s shaft with a pen, turn it by hand {TURNS} full turns, and measure how far {name} went.
      </p>
      <TextInput size="sm" label={`${name} went in ${TURNS} turns, mm`} inputMode="decimal" value={typed} onChange={(event) => setTyped(event.currentTarget.value)} />
      {found && (
        <div role="status">
          {found.length === 0 && <p>Nothing that is usually sold moves so far. With gears between, count their teeth.</p>}
          <ul className={css.ranked}>
            {found.slice(0, SHOWN).map((drive) => (
              <li key={inWords(drive)}>
                {inWords(drive)}
                <Button size="compact-xs" variant="default" aria-label={`${name} is: ${inWords(drive)}`} onClick={() => onAnswer(answersOf(axis, drive))}>
                  It is
                </Button>
              </li>
            ))}
          </ul>
        </div>
      )}
    </details>
  ); // prettier-ignore
}

function trainsFor(axis: 'x' | 'y' | 'z', mmPerTurn: number): LikelyDrive[] {
  const stepsPerMm = (MOTOR.fullSteps * MOTOR.microsteps) / mmPerTurn;
  return likelyDrives({ axis, stepsPerMm, tolerancePct: TOLERANCE_PCT }).ranked.filter(
    ({ fullSteps, microsteps }) => fullSteps === MOTOR.fullSteps && microsteps === MOTOR.microsteps,
  );
}

const inWords = (drive: LikelyDrive): string =>
  drive.kind === 'belt'
    ? `belt of ${drive.pitchMm} mm, ${drive.teeth} teeth`
    : drive.kind === 'screw'
      ? `screw that rises ${drive.leadMm} mm a turn`
      : `roller of ⌀ ${drive.diameterMm} mm`;

function answersOf(axis: string, drive: LikelyDrive): Answers {
  if (drive.kind === 'belt')
    return { [`${axis}.kind`]: 'belt', [`${axis}.pitch`]: drive.pitchMm, [`${axis}.teeth`]: drive.teeth };
  return drive.kind === 'screw' ? { [`${axis}.kind`]: 'screw', [`${axis}.lead`]: drive.leadMm } : {};
}
