import { Button } from '@mantine/core';
import type { Point } from '@jolly/core/probe/mapGrid';
import { useMemo, useState } from 'react';
import { usePreview, useWorkbench } from '../../workbench/Workbench';
import css from './BedPlan.module.css';
import { DryRun } from './DryRun';
import { PlanDrawing } from './PlanDrawing';
import { PlanLegend } from './PlanLegend';
import { addClip, dropClip, type Handle, planHandles } from './planHandles';
import { planShape } from './planShape';
import { useDryRun } from './useDryRun';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';

/** The bed plan: drag to change, numbers follow; homing can be tried on the bench's plant. */
export function PlanView() {
  const { machine, settings, change, tryOut, dropPreview } = useWorkbench();
  const preview = usePreview();
  const [held, setHeld] = useState<{ id: string; to: Point }>();
  /** Why the place that a handle is held at makes no sense. */
  const [nonsense, setNonsense] = useState<string>();
  const { refused, act, forget } = useAct();
  const shown = useMemo(
    () => (preview ? new Map(preview.settings.map((setting) => [setting.key, setting])) : settings),
    [preview, settings],
  );
  const shape = useMemo(() => planShape(shown), [shown]);
  const there = preview?.machine ?? machine;
  const handles = planHandles(there, planShape(settings));
  const run = useDryRun(there);

  const move = (handle: Handle, to: Point) => {
    setHeld({ id: handle.id, to });
    const nonsense = handle.nonsense(to);
    setNonsense(nonsense);
    if (nonsense === undefined) tryOut(handle.label, handle.edits(to));
    else dropPreview();
  };
  const drop = async (handle: Handle, to: Point) => {
    const place = `X ${Math.round(to.x * 10) / 10}, Y ${Math.round(to.y * 10) / 10} mm`;
    const nonsense = handle.nonsense(to);
    setNonsense(undefined);
    await act(async () =>
      nonsense === undefined
        ? change(`${handle.label} to ${place}`, handle.edits(to))
        : `${nonsense} Nothing was changed.`,
    );
    setHeld(undefined);
    dropPreview();
  };

  const leave = () => {
    setHeld(undefined);
    setNonsense(undefined);
    forget();
    dropPreview();
  };

  return (
    <div className={css.planView} onKeyDown={(event) => event.key === 'Escape' && held && leave()}>
      <figure className={css.figure}>
        <PlanDrawing
          machine={there}
          shape={shape}
          handles={handles}
          held={held}
          onMove={move}
          onDrop={(handle, to) => void drop(handle, to)}
          onLeave={leave}
          trail={run.trail}
          nozzle={run.nozzle}
        />
        <figcaption>
          <PlanLegend shape={shape} />
        </figcaption>
      </figure>
      <section className={css.numbers} aria-label="Figures of the plan">
        <Figures shape={shape} />
        <Refused why={nonsense ?? refused} />
        <div className={css.clips}>
          <Button
            size="xs"
            variant="default"
            onClick={() => void act(() => change('A clip on the plate', addClip(machine)))}
          >
            Add a clip
          </Button>
          {(machine.frame.clips_mm ?? []).map((_, index) => (
            <Button
              key={index}
              size="xs"
              variant="subtle"
              onClick={() => void act(() => change(`Clip ${index + 1} taken off`, dropClip(machine, index)))}
            >
              Take clip {index + 1} off
            </Button>
          ))}
        </div>
        <DryRun run={run} />
      </section>
    </div>
  );
}

const span = ([from, to]: [number, number]) => `${round(from)} to ${round(to)}`;
const round = (value: number) => Math.round(value * 10) / 10;

function Figures({ shape }: { shape: ReturnType<typeof planShape> }) {
  const rows: [string, string][] = [
    ['Plate', `X ${span(shape.bed.x)}, Y ${span(shape.bed.y)} mm`],
    ['Travel', `X ${span(shape.travel.x)}, Y ${span(shape.travel.y)} mm`],
    ...(shape.probe
      ? [
          // Pairs of a title and a value.
          [
            'Probe reach',
            shape.reach
              ? `${Math.round(shape.reach.share * 100)} % of the plate; X ${span(shape.reach.x)}, Y ${span(shape.reach.y)} mm`
              : 'none of the plate',
          ] as [string, string],
        ]
      : []),
    ...(shape.byProbe
      ? [
          // Pairs of a title and a value.
          [
            'Z home spot',
            `X ${round(shape.spot.x)}, Y ${round(shape.spot.y)} mm; nozzle at ${round(shape.nozzleThen.x)}, ${round(shape.nozzleThen.y)}`,
          ] as [string, string],
        ]
      : []),
    ...(shape.map
      ? [
          // Pairs of a title and a value.
          [
            'Map',
            `${shape.map.points.length} points in ${Math.floor(shape.map.seconds / 60)} min ${Math.round(shape.map.seconds % 60)} s${shape.map.touchesCentre ? '' : '; misses the centre'}`,
          ] as [string, string],
        ]
      : []),
  ];
  return (
    <dl className={css.figures}>
      {rows.map(([title, words]) => (
        <div key={title}>
          <dt>{title}</dt>
          <dd className="figures">{words}</dd>
        </div>
      ))}
    </dl>
  );
}
