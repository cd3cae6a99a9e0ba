import type { Consequence } from '@jolly/core/ripple/consequence';
import { mapPoints } from '@jolly/core/bringup/boardReading';
import { HUMS, NOTHING_MOVED } from '@jolly/core/settings/ways';
import { partsOf } from '@jolly/core/machine/facts';
import type { Proof } from '@jolly/core/proofs/proof';
import { proofsOf } from '@jolly/core/proofs/proofs';
import { type ReactNode, Suspense, useDeferredValue, useMemo } from 'react';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useKeys } from '../../app/keys/useKeys';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { useBuiltRecord } from '../../app/frame/useBuiltWith';
import { isAwake, isStopped, type Powered } from '@jolly/session/power';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { useJob } from '../../job/JobProvider';
import { useRecordSlips } from '../../workbench/useRecordSlips';
import { useWorkbench } from '../../workbench/Workbench';
import { useObservedWays } from '../../workbench/useObservedWays';
import { Refused } from '../../ui/Refused';
import { loadedLater } from '../../ui/loadedLater';
import { useNowAndThen } from '../../ui/useNowAndThen';
import css from './BringUpStation.module.css';
import { Actions } from './Actions';
import { ArmsProving } from './ArmsProving';
import { BenchHands } from './BenchHands';
import { FaultDrawer } from './FaultDrawer';
import { proofSlips } from './proofSlips';
import { ProvePrompt } from './ProvePrompt';
import { MachineView } from './MachineView';
import { OwnDisplay } from './OwnDisplay';
import { PowerRow } from './PowerRow';
import { PrintCardBox } from './PrintCardBox';
import { Readings } from './Readings';
import { SensorTable } from './SensorTable';
import { useProving } from './useProving';
import { useReported } from './useReported';

/** The library that draws curves comes when there are any. */
const Curves = loadedLater(() => import('./Curves'));
const DRAWN_EVERY_MS = 500;

/** The machine on the bench and the tests that prove it, in an order in which nothing can be hurt. */
export function ProveView({ choose }: { choose: ReactNode }) {
  const { facts, settings } = useWorkbench();
  const { proofs, board } = useStation();
  const { ask } = useBench();
  const display = partsOf(facts, 'display')[0]?.type;
  const { run, running, prompt, answer, giveUp, unwritten } = useProving();
  const [, setMoved] = useObservedWays(board?.imageHash);
  /** What was seen of a motor is what the directions doctor asks for. */
  const say = (chosen: string) => {
    const axis = prompt?.question?.about === 'place' ? /^motor-(\w)$/.exec(running ?? '')?.[1] : undefined;
    if (axis) setMoved((now) => ({ ...now, [`+${axis}`]: chosen === HUMS ? NOTHING_MOVED : chosen }));
    answer(chosen);
  };
  useKeys({ hands: toHands });
  const awake = usePowered(isAwake);
  const stopped = usePowered(isStopped);
  const store = usePowered((now) => now.store);
  /** A machine that has stopped answers nothing that is tested. */
  const ready = awake && (!stopped || running !== undefined);
  const reported = useReported(ask, awake, running === undefined);
  const steps = useMemo(() => proofsOf(facts, settings), [facts, settings]);
  const outcomes = new Map((proofs?.proofs ?? []).map((proof) => [proof.step, proof]));
  useArmsSteps(
    steps.map((step) => ({
      title: step.title,
      act: step.act,
      ...(step.caution && { caution: step.caution }),
      done: outcomes.get(step.id)?.outcome === 'proven',
    })),
  );

  return (
    <>
      <main className="bench">
        {choose}
        <Refused why={unwritten} />
        <PowerRow />
        {prompt && <ProvePrompt prompt={prompt} answer={say} giveUp={giveUp} />}
        <ArmsProving
          steps={steps}
          proofs={proofs?.proofs ?? []}
          voided={proofs?.voided ?? []}
          awake={ready}
          running={running}
          prompt={prompt}
          run={(step) => void run(step)}
          answer={say}
          giveUp={giveUp}
        />
        <SensorTable proofs={proofs?.proofs ?? []} />
        <div className={css.two}>
          <div className={css.table}>
            <MachineNow />
            <BenchHands />
            <FaultDrawer />
          </div>
          <Readings awake={awake} busy={running !== undefined} />
        </div>
        <Actions awake={awake} busy={running !== undefined} />
        <div className={css.two}>
          <CurvesNow />
          <div className={css.aside}>
            {display && <OwnDisplay touched={display.touched ?? false} />}
            <PrintCardBox />
          </div>
        </div>
      </main>
      <ProvingDocket
        {...{ steps, ready, running, stopped, reported }}
        store={awake ? store : undefined}
        run={(step) => void run(step)}
      />
    </>
  );
}

/** What is to be proven, what the record says of it, and what the open job warns of. */
function ProvingDocket({
  steps,
  ready,
  running,
  stopped,
  store,
  reported,
  run,
}: {
  steps: readonly Proof[];
  /** A test can be begun. */
  ready: boolean;
  running: string | undefined;
  stopped: boolean;
  /** What the board keeps, while it is on. */
  store: Powered['store'];
  reported: ReturnType<typeof useReported>;
  run: (step: Proof) => void;
}) {
  const { machine } = useWorkbench();
  const { proofs, board } = useStation();
  const { tail } = useJob();
  const cautions = (tail?.ripple.consequences ?? []).filter(
    (entry) => entry.kind === 'caution' && entry.station === 'bring-up',
  );
  const built = useBuiltRecord();
  const recordSlips = useRecordSlips({ ...built, ...(store && { store }), ...(reported && { reported }) });
  return (
    <Docket
      title="Prove it"
      slips={[
        ...recordSlips.slips,
        ...proofSlips(machine.id, {
          steps,
          proofs: proofs?.proofs ?? [],
          voided: proofs?.voided ?? [],
          awake: ready,
          running,
          run,
        }),
        ...cautions.map(cautionSlip),
      ]}
      checking={recordSlips.checking}
      empty="Nothing can be proven before an image is flashed."
    >
      {stopped && running === undefined && (
        <p>The machine has stopped. Read why, wake it, and go on testing; what moves is homed anew.</p>
      )}
      {!board?.imageHash && (
        <p>
          No flash is on record: what your board runs is not known, and on the bench it has nothing to run.
        </p>
      )}
    </Docket>
  );
}

/** The machine as it stands now: drawn at every look at the bench, and nothing else with it. */
function MachineNow() {
  const { facts } = useWorkbench();
  const view = usePowered(({ look }) => look?.view);
  const readings = usePowered((now) => now.readings);
  return <MachineView facts={facts} view={view} points={mapPoints(readings)} />;
}

function CurvesNow() {
  // A curve is dear to draw, and may lag behind what can be pressed; a fast bench tells twenty points a second.
  const curve = useDeferredValue(
    useNowAndThen(
      usePowered((now) => now.curve),
      DRAWN_EVERY_MS,
    ),
  );
  if (curve.length < 2) return <p className="soft">Temperatures are drawn here once the board tells them.</p>;
  return (
    <Suspense fallback={<p className="soft">The curves are drawn.</p>}>
      <Curves curve={curve} />
    </Suspense>
  );
}

/** What the open job says can hurt while it is brought up. */
function cautionSlip({ id, title, because }: Consequence): Slip {
  return { id, severity: 'note', what: title, why: `Because ${because}.`, evidence: [], actions: [] };
}

/** The focus goes to the hand that the test under way asks for, else to the hands of the bench. */
function toHands(): void {
  const asked = document.querySelector<HTMLElement>('[data-hand-asked]');
  (asked ?? document.querySelector<HTMLElement>('[data-hands] button'))?.focus();
}
