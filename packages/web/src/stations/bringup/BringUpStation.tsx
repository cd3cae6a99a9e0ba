import { Button, NativeSelect } from '@mantine/core';
import type { Consequence } from '@jolly/core/ripple/consequence';
import { mapPoints } from '@jolly/core/bringup/boardReading';
import { partsOf } from '@jolly/core/machine/facts';
import { proofsOf, type ProofStep } from '@jolly/core/bringup/proofs';
import { lazy, Suspense, useMemo } from 'react';
import type { Proof as Outcome } from '@jolly/contract/endpoints/board';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { type BenchControl, useBench } from '../../bench/BenchProvider';
import { useJob } from '../../job/JobProvider';
import { NotTakenOver } from '../../job/NotTakenOver';
import { useRecordSlips } from '../../workbench/useRecordSlips';
import { useWorkbench } from '../../workbench/Workbench';
import { whenOf } from '../../ui/when';
import { Refused } from '../../ui/Refused';
import css from './BringUpStation.module.css';
import { Actions } from './Actions';
import { MachineView } from './MachineView';
import { OwnDisplay } from './OwnDisplay';
import { PrintCardBox } from './PrintCardBox';
import { Readings } from './Readings';
import { useProving } from './useProving';
import { useReported } from './useReported';

const PACES = [
  { value: '1', label: 'real time' },
  { value: '5', label: '5 × faster' },
  { value: '20', label: '20 × faster' },
  { value: 'Infinity', label: 'as fast as can be, while it works' },
];

/** The library that draws curves comes when there are any. */
const Curves = lazy(() => import('./Curves'));

/** The machine on the bench and the tests that prove it, in an order in which nothing can be hurt. */
export function BringUpStation() {
  const { facts } = useWorkbench();
  const { proofs, board } = useStation();
  const { tail } = useJob();
  const cautions = (tail?.ripple.consequences ?? []).filter(
    (entry) => entry.kind === 'caution' && entry.station === 'bring-up',
  );
  const bench = useBench();
  const display = partsOf(facts, 'display')[0]?.type;
  const { run, running, prompt, giveUp, unwritten } = useProving();
  const awake = bench.power.state === 'on' && bench.power.silent === undefined;
  const reported = useReported(bench.ask, awake, running === undefined);
  const recordSlips = useRecordSlips({
    ...(awake && bench.store && { store: bench.store }),
    ...(reported && { reported }),
  });
  const steps = useMemo(() => proofsOf(facts), [facts]);
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
        <Refused why={unwritten} />
        <NotTakenOver>What is powered here is the board of the machine file.</NotTakenOver>
        <Power awake={awake} />
        {prompt && (
          <div className={css.prompt} role="status">
            <strong>{prompt}</strong>
            <Button size="xs" variant="default" onClick={giveUp}>
              Give up on this step
            </Button>
          </div>
        )}
        <div className={css.two}>
          <MachineView
            facts={facts}
            view={bench.look?.view}
            points={mapPoints(bench.readings)}
            hold={bench.hold}
            awake={awake}
          />
          <Readings bench={bench} awake={awake} busy={running !== undefined} />
        </div>
        <Actions ask={bench.ask} awake={awake} busy={running !== undefined} />
        <div className={css.two}>
          {bench.curve.length > 1 ? (
            <Suspense fallback={<p className="soft">The curves are drawn.</p>}>
              <Curves curve={bench.curve} />
            </Suspense>
          ) : (
            <p className="soft">Temperatures are drawn here once the board tells them.</p>
          )}
          <div className={css.aside}>
            {display && (
              <OwnDisplay
                look={bench.look?.display}
                touched={display.touched ?? false}
                turn={bench.turn}
                press={bench.press}
                touch={bench.touch}
              />
            )}
            <PrintCardBox putPrints={bench.putPrints} {...(bench.prints && { prints: bench.prints })} />
          </div>
        </div>
      </main>
      <Docket
        title="Prove it"
        slips={[
          ...recordSlips.slips,
          ...steps.map((step) =>
            slip(step, outcomes.get(step.id), { awake, running, run: () => void run(step) }),
          ),
          ...cautions.map(cautionSlip),
        ]}
        checking={recordSlips.checking}
        empty="Nothing can be proven before an image is flashed."
      >
        {!board?.imageHash && <p>Nothing is flashed yet. The board has nothing to run.</p>}
      </Docket>
    </>
  );
}

function Power({ awake }: { awake: boolean }) {
  const bench = useBench();
  const { board } = useStation();
  return (
    <section className={css.powerRow} aria-label="Power">
      {awake || bench.power.state === 'starting' ? (
        <Button variant="default" onClick={bench.powerOff}>
          Switch the power off
        </Button>
      ) : (
        <Button
          disabled={board?.imageHash == null && board?.card == null}
          onClick={() => void bench.powerOn()}
        >
          Switch the power on
        </Button>
      )}
      <NativeSelect
        aria-label="Speed of the bench"
        data={PACES}
        value={String(bench.pace)}
        onChange={(event) => bench.setPace(Number(event.currentTarget.value))}
      />
      <p className={css.powerWord}>{powerInWords(bench, board?.imageHash != null)}</p>
    </section>
  );
}

/** What the open job says can hurt while it is brought up. */
function cautionSlip({ id, title, because }: Consequence): Slip {
  return { id, severity: 'note', what: title, why: `Because ${because}.`, evidence: [], actions: [] };
}

function slip(
  step: ProofStep,
  proof: Outcome | undefined,
  { awake, running, run }: { awake: boolean; running: string | undefined; run: () => void },
): Slip {
  return {
    id: step.id,
    severity: proof === undefined ? 'todo' : proof.outcome === 'proven' ? 'proven' : 'stop',
    what: step.title,
    why: proof?.outcome === 'proven' ? '' : step.act,
    ...(step.caution && proof?.outcome !== 'proven' && { caution: step.caution }),
    evidence: proof ? [...proof.evidence, whenOf(proof.at)] : [],
    actions:
      awake && (running === undefined || running === step.id)
        ? [{ label: proof ? 'Test again' : 'Test it', run, running: running === step.id }]
        : [],
  };
}

function powerInWords(bench: BenchControl, flashed: boolean): string {
  switch (bench.power.state) {
    case 'off':
      return flashed ? 'The power is off.' : 'The power is off, and nothing is flashed yet.';
    case 'starting':
      return 'The board wakes up.';
    case 'held':
      return `The link is held by ${bench.power.by}. Close it there first.`;
    case 'on':
      return bench.power.silent
        ? `The board is silent: ${bench.power.silent}. Flash an image first.`
        : `Running for ${(bench.look?.nowS ?? 0).toFixed(0)} s on the bench's clock.`;
  }
}
