import { TOOL_ROUTES, type ToolRoute as ToolRouteName } from '@jolly/contract/endpoints/board';
import { isWired, needsBootloader } from '@jolly/core/board/route';
import { boardCalled } from '@jolly/core/catalogue/catalogue';
import { toolSteps } from '@jolly/core/flash/toolSteps';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { Docket } from '../../app/docket/Docket';
import type { Slip } from '../../app/docket/slip';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { isLive } from '@jolly/session/power';
import { usePowered } from '../../bench/BenchProvider';
import { useJob } from '../../job/JobProvider';
import { BoardDrawing } from '../../ui/BoardDrawing';
import { Refused } from '../../ui/Refused';
import { useWorkbench } from '../../workbench/Workbench';
import { haveSeen, useTakenAway } from '../survey/useTakenAway';
import { Afterwards } from './Afterwards';
import { Attempts } from './Attempts';
import { lossSlips } from './cardSlips';
import css from './FlashStation.module.css';
import type { RouteView } from './routeView';
import { FlashStep } from './FlashStep';
import { holdsWords } from './holdsWords';
import { ImageChoice } from './ImageChoice';
import { PowerOff } from './PowerOff';
import { ProgrammerWiring } from './ProgrammerWiring';
import { RouteHead, RouteTrouble } from './RouteHead';
import { ToolProgress } from './ToolProgress';
import { toolSlips } from './toolSlips';
import { useFlashes } from './useFlashes';
import { type ImageOffer, useImageChoice } from './useImageChoice';
import { type ImageSlips, useImageSlips } from './useImageSlips';
import { useToolRun } from './useToolRun';
import { wayBackSlips } from './wayBackSlips';

/** A route by a tool over a wire: choose the image, make ready, write, look at the evidence. */
export function ToolRoute({ route, choose, why, keptFirst }: RouteView & { keptFirst: boolean }) {
  const { board, chip } = useWorkbench();
  const live = usePowered(isLive);
  const { board: onBench } = useStation();
  const choice = useImageChoice(keptFirst);
  const tool = useToolRun();
  const flashes = useFlashes();
  const { offer } = choice;
  const taken = offer?.build !== undefined && onBench?.imageHash === offer.build.imageHash;
  const against = useImageSlips(offer, { taken, throughBootloader: needsBootloader(route) });
  const kind = TOOL_ROUTES.find((name) => name === route.kind);
  const { state, outcome, does, route: by } = tool.stands ?? {};
  const written = state === 'ended' && does === 'write' && by === route.kind && outcome?.taken === true;
  const steps = toolSteps(route, board, chip, offer?.name ?? 'the image').map((step) => ({
    ...step,
    done: step.id === 'off' ? !live : step.id === 'write' && written,
  }));
  useArmsSteps(steps);
  return (
    <>
      <main className="bench">
        {choose}
        <RouteHead route={route} why={why} />
        <div className={css.two}>
          <ol className={css.steps}>
            <ImageChoice choice={choice} />
            {steps.map((step) => (
              <FlashStep key={step.id} title={step.title} done={step.done}>
                {step.caution && <p className={css.caution}>{step.caution}</p>}
                <p>{step.act}</p>
                {step.id === 'off' && <PowerOff />}
                {step.id === 'write' && kind && (
                  <WriteIt tool={tool} kind={kind} offer={offer} notForThis={against.notForThis} judging={against.checking} holds={onBench?.imageHash == null ? undefined : holdsWords(onBench)} calls={needsBootloader(route)} />
                )}
              </FlashStep>
            ))}
          </ol>
          {isWired(route) ? <ProgrammerWiring route={route} /> : <BoardDrawing board={board} lit={live} />}
        </div>
        <RouteTrouble route={route} />
        <Afterwards route={route} />
        <Attempts flashes={flashes.data ?? []} />
      </main>
      <ToolDocket tool={tool} choice={choice} against={against} taken={taken} empty={!flashes.data?.length} />
    </>
  );
} // prettier-ignore

interface Writing {
  tool: ReturnType<typeof useToolRun>;
  kind: ToolRouteName;
  offer: ImageOffer | undefined;
  /** It is made for another board or another start, or too large. */
  notForThis: boolean;
  /** The checks have not spoken yet. */
  judging: boolean;
  /** What the flash holds; undefined where that is not on record. */
  holds: string | undefined;
  /** The route goes through a bootloader: whether there is one can be tried. */
  calls: boolean;
}

/** The acts; what would overwrite something is asked twice, by what it overwrites. */
function WriteIt({ tool, kind, offer, notForThis, judging, holds, calls }: Writing) {
  const live = usePowered(isLive);
  const [asking, setAsking] = useState(false);
  const { running, busy, refused, start } = tool;
  const sure = `Overwrite ${holds ?? 'whatever the flash holds'} with ${offer?.name}`;
  const write = () => {
    if (!asking) return setAsking(true);
    setAsking(false);
    void start(kind, 'write', offer?.image);
  };
  return (
    <>
      <p>
        {holds === undefined
          ? 'What the flash holds is not on record here. Whatever it is, this overwrites it.'
          : `This overwrites ${holds}.`}
      </p>
      {notForThis && (
        <p className="refused">
          This image is not for this board as it is set up: see Evidence. Choose another.
        </p>
      )}
      {live && (
        <p className="soft">The power is on. Switch it off first: a tool works on a board that rests.</p>
      )}
      <div className="row">
        <Button
          disabled={!offer || notForThis || judging || live || running || busy}
          color={asking ? 'vermilion' : 'brass'}
          onClick={write}
        >
          {asking ? sure : 'Write it'}
        </Button>
        <Button variant="default" disabled={live || running || busy} onClick={() => void start(kind, 'try')}>
          {calls ? 'Only try whether it answers' : 'Only ask the chip who it is'}
        </Button>
      </div>
      <ToolProgress tool={tool} />
      <Refused why={refused} />
    </>
  );
}

function ToolDocket({ tool, choice, against, taken, empty }: Pick<Writing, 'tool'> & { choice: ReturnType<typeof useImageChoice>; against: ImageSlips; taken: boolean; empty: boolean }) {
  const { machine, board, facts } = useWorkbench();
  const { board: onBench } = useStation();
  const job = useJob();
  const losses = useTakenAway();
  const { elsewhere } = choice;
  return (
    <Docket
      title="Evidence"
      slips={[
        // What the run before came to says nothing of one that begins.
        ...(tool.stands && !tool.busy ? toolSlips(machine.id, tool.stands, board, holdsWords(onBench)) : []),
        ...wayBackSlips(machine.id, job),
        ...lossSlips(machine.id, losses, { seen: job.stored !== undefined && haveSeen(job.stored.job, losses), flashed: taken }),
        ...against.slips,
        ...elsewhere.map((entry): Slip => ({
          id: `elsewhere:${entry.id}`, severity: 'note', what: `${entry.name} belongs to another board.`,
          why: `It was kept from ${boardCalled(facts.catalogue, entry.board)}; this machine has ${board.name} rev ${board.revision} now. Its way back is that board.`, evidence: [], actions: [],
        })),
      ]}
      checking={against.checking}
      empty={empty ? 'Nothing was flashed yet. Choose the image, make ready, and write.' : 'Nothing speaks against it. What was written before stands under Attempts.'}
    />
  );
} // prettier-ignore
