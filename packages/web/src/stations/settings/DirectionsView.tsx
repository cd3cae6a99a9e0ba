import { Button, NativeSelect } from '@mantine/core';
import { directionDoctor, type Observation } from '@jolly/core/settings/directionDoctor';
import { NOTHING_MOVED, wayInWords, waysOf } from '@jolly/core/settings/ways';
import { useMemo } from 'react';
import { MOTOR_AXES, type MotorAxis } from '@jolly/core/machine/machine';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { useBuiltWith } from '../../app/frame/useBuiltWith';
import { useObservedWays } from '../../workbench/useObservedWays';
import { useWorkbench } from '../../workbench/Workbench';
import css from './DirectionsView.module.css';
import { WayDrawing } from './WayDrawing';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';

const ASKED = ['+x', '+y', '+z', '+e'] as const;
const NOT_ASKED = 'not tried';
const TITLES: Record<(typeof ASKED)[number], { name: string; ask: string; command: string }> = {
  '+x': { name: 'X', ask: 'X by +10 mm', command: 'G91, G1 X10 F600, G90' },
  '+y': { name: 'Y', ask: 'Y by +10 mm', command: 'G91, G1 Y10 F600, G90' },
  '+z': { name: 'Z', ask: 'Z by +5 mm', command: 'G91, G1 Z5 F300, G90' },
  '+e': { name: 'extruder', ask: 'Extruder by +10 mm, hot end warm', command: 'G91, G1 E10 F120, G90' },
};

/** From "I asked for +X and it moved back" to what to change. */
export function DirectionsView() {
  const { machine, facts, settings } = useWorkbench();
  const { board } = useStation();
  const [moved, setMoved] = useObservedWays(board?.imageHash);
  const turned = useTurnedOtherwise();
  const crossBelt = machine.frame.kinematics === 'cross-belt';
  const observed = useMemo(
    () =>
      ASKED.flatMap((asked): Observation[] => {
        const what = moved[asked] ?? NOT_ASKED;
        return what === NOT_ASKED ? [] : [{ asked, moved: what }];
      }),
    [moved],
  );
  // What was seen of other directions says nothing of these.
  const counts = turned === undefined || turned.length === 0;
  const found = observed.length > 0 && counts ? directionDoctor(facts, settings, observed) : undefined;
  const steps = useMemo(
    () =>
      ASKED.map((asked) => ({
        title: TITLES[asked].ask,
        act: `Send ${TITLES[asked].command}. Watch which way the nozzle goes against the plate.`,
        caution: 'Moving axes pinch. Keep a hand on the switch and fingers off belts.',
        done: moved[asked] !== undefined && moved[asked] !== NOT_ASKED,
      })),
    [moved],
  );
  useArmsSteps(steps);
  return (
    <div className={css.view}>
      <section aria-label="What you asked and what moved" className={css.asked}>
        <h2>Which way did it go?</h2>
        <p>
          Ask for one small move at a time, in the middle of the travel, and say what the <b>nozzle</b> did
          against the plate. A bed that moves to the front takes the nozzle to the back.
        </p>
        <p className={css.caution}>
          <b>Caution:</b> moving axes pinch. Keep a hand on the switch and fingers off belts.
        </p>
        <OtherImage turned={turned} />
        {ASKED.map((asked) => (
          <div key={asked} className={css.row}>
            <WayDrawing asked={asked} moved={moved[asked] ?? ''} />
            <NativeSelect
              size="xs"
              label={TITLES[asked].ask}
              description={TITLES[asked].command}
              value={moved[asked] ?? NOT_ASKED}
              onChange={(event) => {
                const { value } = event.currentTarget;
                setMoved((now) => ({ ...now, [asked]: value }));
              }}
              data={[
                { value: NOT_ASKED, label: 'not tried' },
                ...waysOf(asked, crossBelt).map((value) => ({ value, label: wayInWords(value) })),
                { value: NOTHING_MOVED, label: wayInWords(NOTHING_MOVED) },
              ]}
            />
          </div>
        ))}
      </section>
      <Answer
        found={found}
        counts={counts}
        untried={ASKED.filter((asked) => (moved[asked] ?? NOT_ASKED) === NOT_ASKED)}
        onChanged={() => setMoved({})}
      />
    </div>
  );
}

/** Axes whose direction the image on the board has otherwise than the machine file; undefined where that is not known. */
function useTurnedOtherwise(): MotorAxis[] | undefined {
  const { settings } = useWorkbench();
  const builtWith = useBuiltWith();
  if (!builtWith) return undefined;
  return MOTOR_AXES.filter((axis) => {
    const key = `direction.${axis}`;
    return builtWith[key] !== undefined && builtWith[key] !== settings.get(key)?.value;
  });
}

/** What moves tells of the image that runs: said where its directions are others than the machine file's, or not known. */
function OtherImage({ turned }: { turned: MotorAxis[] | undefined }) {
  const { board } = useStation();
  if (turned?.length === 0) return null;
  return (
    <p className={css.caution}>
      {turned
        ? `The image on the board turns ${turned.map((axis) => TITLES[`+${axis}`].name).join(', ')} otherwise than the machine file says. Build and flash before you try.`
        : board?.imageHash
          ? 'What the image on the board was built with is not known. The answer takes it that its directions are those of the machine file.'
          : 'No flash is on record. The answer takes it that the directions of what runs are those of the machine file.'}
    </p>
  );
}

/** What the observed moves say: nothing to change, what contradicts itself, or the changes that mend it. */
function Answer({
  found,
  counts,
  untried,
  onChanged,
}: {
  found: ReturnType<typeof directionDoctor> | undefined;
  /** Whether what moves tells of the machine file as it is. */
  counts: boolean;
  untried: readonly (typeof ASKED)[number][];
  onChanged: () => void;
}) {
  const { change, showPreview } = useWorkbench();
  const { refused, act } = useAct();
  return (
    <section aria-label="What to do" className={css.verdict} role="status">
      <h2>What to do</h2>
      {!found && (
        <p className="soft">
          {counts
            ? 'Say what one move did, and the answer stands here.'
            : 'What moves now tells of other directions than those of the machine file. Build and flash, then try again.'}
        </p>
      )}
      {found?.kind === 'fine' && (
        <p data-tone="good">
          {untried.length === 0
            ? 'Everything moves as asked. Nothing to change.'
            : `What you tried moves as asked. Not tried yet: ${untried.map((asked) => TITLES[asked].name).join(', ')}.`}
        </p>
      )}
      {(found?.kind === 'contradiction' || found?.kind === 'dead' || found?.kind === 'more') && (
        <p data-tone="bad">{found.why}</p>
      )}
      {found?.kind === 'change' && (
        <ol>
          {found.steps.map((step) => (
            <li key={step.what}>
              <h3>{step.what}</h3>
              <p>{step.because}.</p>
              {step.edits.length > 0 && (
                <div className="row">
                  <Button
                    size="xs"
                    onClick={() =>
                      void act(() => change(step.what, step.edits)).then((made) => made && onChanged())
                    }
                  >
                    Change it
                  </Button>
                  <Button
                    size="xs"
                    variant="default"
                    onClick={() => void act(() => showPreview(step.what, step.edits))}
                  >
                    Show it first
                  </Button>
                </div>
              )}
            </li>
          ))}
        </ol>
      )}
      {found?.kind === 'change' &&
        found.also.map((why) => (
          <p key={why} data-tone="bad">
            {why}
          </p>
        ))}
      <Refused why={refused} />
    </section>
  );
}
