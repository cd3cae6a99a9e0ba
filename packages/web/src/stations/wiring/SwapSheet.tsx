import { Button, Checkbox } from '@mantine/core';
import type { SwapPlan, SwapStep } from '@jolly/core/ripple/swapPlan';
import { swapSheetCsv, swapSheetHtml } from '@jolly/core/formats/swapSheet';
import { useStation } from '../../app/frame/StationContext';
import { asDone, useJob } from '../../job/JobProvider';
import { download } from '../../ui/download';
import { SaveCsv } from '../../ui/SaveCsv';
import { printPage } from '../../ui/printPage';
import { EndDrawing } from './EndDrawing';
import { OtherBoard, useOtherBoard } from './OtherBoard';
import type { Wiring } from './useWiring';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Wiring.module.css';

/** Every row of the swap in working order; a tick fills a tooth. On paper, as CSV, or step by step. */
export function SwapSheet({ wiring }: { wiring: Wiring }) {
  const job = useJob();
  const other = useOtherBoard(wiring);
  const plan = other.board ? other.preview?.plan : wiring.view.plan;
  return (
    <>
      {!job.stored && <OtherBoard other={other} />}
      {other.pending && <p role="status">The swap to {other.board?.name} is worked out.</p>}
      {plan && <Sheet plan={plan} wiring={wiring} />}
    </>
  );
}

/** A plan as rows to tick, and its ways onto paper. */
function Sheet({ plan, wiring }: { plan: SwapPlan; wiring: Wiring }) {
  const job = useJob();
  const { openArms } = useStation();
  const { refused, act } = useAct();
  const done = new Set(plan.steps.map(({ id }) => id).filter((id) => job.isDone(id)));
  const consequences = job.tail?.ripple.consequences ?? [];
  const tick = (step: SwapStep, ticked: boolean) => {
    const consequence = consequences.find(({ id }) => id === step.id);
    if (consequence) void act(() => job.tick(asDone(consequence), ticked));
  };
  const html = () => swapSheetHtml(plan, wiring.after.name, new Date().toLocaleDateString('en-GB'), done);
  const file = (ending: string) => `${wiring.after.id}-swap-sheet.${ending}`;
  return (
    <>
      <div className="row">
        <Button size="xs" onClick={() => printPage(html())}>
          Print the sheet
        </Button>
        <Button size="xs" variant="default" onClick={() => download(file('html'), 'text/html', html())}>
          Save as HTML
        </Button>
        <SaveCsv name={file('csv')} rows={() => swapSheetCsv(plan, done)} />
        <Button
          size="xs"
          variant="default"
          disabled={plan !== wiring.view.plan || plan.steps.length === 0}
          onClick={openArms}
        >
          Step by step
        </Button>
        <span className="soft">
          {done.size} of {plan.steps.length} done
        </span>
      </div>
      <Refused why={refused} />
      {plan.steps.length === 0 ? (
        <p className="soft">
          Nothing is to be done with your hands: every lead that is known stays where it is.
        </p>
      ) : (
        <p className="soft">
          With the supply unplugged, and left unplugged: nothing is energised before the staged first power at
          Bring-up.
        </p>
      )}
      <ol className={css.sheet} aria-label="Swap sheet">
        {plan.steps.map((step, index) => (
          <li key={step.id} data-done={done.has(step.id)} data-kind={step.kind}>
            <Checkbox
              size="lg"
              aria-label={step.title}
              checked={done.has(step.id)}
              disabled={!job.stored}
              onChange={(event) => tick(step, event.currentTarget.checked)}
            />
            <div className={css.what}>
              <b className="figures">{index + 1}</b> <strong>{step.title}</strong>
              {step.tasks.map(({ what }) => (
                <p key={what}>{what}</p>
              ))}
              {step.cautions.map((caution) => (
                <p key={caution} className={css.caution}>
                  {caution}
                </p>
              ))}
            </div>
            <EndDrawing end={step.from} title="from" />
            <EndDrawing end={step.to} title="to" />
          </li>
        ))}
      </ol>
      {plan.untouched.length > 0 && plan.steps.length > 0 && (
        <p className="soft">Stay as they are: {plan.untouched.join(', ')}.</p>
      )}
    </>
  );
}
