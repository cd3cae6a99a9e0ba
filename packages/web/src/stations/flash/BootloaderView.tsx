import { TOOL_ROUTES } from '@jolly/contract/endpoints/board';
import { isWired, needsBootloader } from '@jolly/core/board/route';
import { withoutBootloader } from '@jolly/core/board/withoutBootloader';
import { boardBy, chipOf } from '@jolly/core/catalogue/catalogue';
import type { BootloaderKnown } from '@jolly/core/flash/chooseRoute';
import { canFlash } from '@jolly/core/flash/chooseRoute';
import { by, routeWords } from '@jolly/core/flash/routeWords';
import { certain } from '@jolly/core/tree/certain';
import { Button } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import { Docket } from '../../app/docket/Docket';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { isLive } from '@jolly/session/power';
import { usePowered } from '../../bench/BenchProvider';
import { useJob } from '../../job/JobProvider';
import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { Refused } from '../../ui/Refused';
import { useWorkbench } from '../../workbench/Workbench';
import css from './FlashStation.module.css';
import { FlashStep } from './FlashStep';
import { holdsWords } from './holdsWords';
import { PowerOff } from './PowerOff';
import { ProgrammerWiring } from './ProgrammerWiring';
import { ToolProgress } from './ToolProgress';
import { toolSlips } from './toolSlips';
import { useToolRun } from './useToolRun';
import { wayBackSlips } from './wayBackSlips';

const IS: Record<BootloaderKnown['is'], string> = {
  unknown: 'Whether there is a bootloader is not known',
  there: 'There is a bootloader',
  absent: 'There is no bootloader',
};

/** The bootloader of the board: whether there is one, trying it, installing one, and doing without. */
export function BootloaderView({ choose, known }: { choose: ReactNode; known: BootloaderKnown }) {
  const { machine, board } = useWorkbench();
  const { board: onBench } = useStation();
  const job = useJob();
  const tool = useToolRun();
  return (
    <>
      <main className="bench">
        {choose}
        <h2>Bootloader of {board.name}</h2>
        <p>
          <b>{IS[known.is]}:</b> {known.because}.
        </p>
        <p className="soft">
          A bootloader takes the first bytes of the flash, and takes images by card or lead. Nobody can see
          whether there is one; trying is harmless.
        </p>
        <TryIt tool={tool} />
        <Choice />
        <Install tool={tool} known={known} />
      </main>
      <Docket
        title="Evidence"
        slips={[
          ...(tool.stands ? toolSlips(machine.id, tool.stands, board, holdsWords(onBench)) : []),
          ...wayBackSlips(machine.id, job),
        ]}
        empty="Try it, install one, or say that this machine does without."
      />
    </>
  );
}

type Tool = { tool: ReturnType<typeof useToolRun> };

/** Every route that needs one and can be tried without writing. */
function TryIt({ tool }: Tool) {
  const { board, chip } = useWorkbench();
  const live = usePowered(isLive);
  const routes = board.routes.flatMap((route) => {
    const kind = TOOL_ROUTES.find((name) => name === route.kind);
    return kind && needsBootloader(route) ? [{ route, kind }] : [];
  });
  if (routes.length === 0)
    return (
      <p>No route to this board can be tried without writing: flash by card, and see whether it is taken.</p>
    );
  return (
    <>
      <h3>Try it</h3>
      <PowerOff />
      <div className="row">
        {routes.map(({ route, kind }) => (
          <Button
            key={kind}
            variant="default"
            disabled={live || tool.running || tool.busy}
            onClick={() => void tool.start(kind, 'try')}
          >
            Call it: {routeWords(route, board, chip).title}
          </Button>
        ))}
      </div>
    </>
  );
}

/** With or without one: what it gives and what it costs. It decides where images begin, and how much room they have. */
function Choice() {
  const { machine, facts, change } = useWorkbench();
  const sold = certain(boardBy(facts.catalogue, machine.board), 'the board');
  const chip = certain(chipOf(facts.catalogue, sold), 'its chip');
  const without = withoutBootloader({ board: sold, chip });
  const room = sold.routes[0].load_address;
  const does = machine.board.bootloader !== false;
  const lost = sold.routes.filter((route) => needsBootloader(route) && canFlash(route)).map(by);
  const left = without?.board.routes.map(by) ?? [];
  const set = (value: false | undefined, label: string) =>
    change(label, [{ path: ['board', 'bootloader'], ...(value === undefined ? {} : { value }) }]);
  return (
    <>
      <h3>With or without</h3>
      {!without || room === 0 ? (
        <p>Every route to this board goes through its bootloader: it cannot do without.</p>
      ) : (
        <>
          <p>
            {does
              ? `Images of this machine begin behind the bootloader, at byte ${room.toLocaleString('en')}, and have ${bytesInWords(chip.flash_bytes)}.`
              : `Images of this machine begin at the first byte, and have ${bytesInWords(without.chip.flash_bytes)}.`}
          </p>
          <p className="soft">
            Without one, {bytesInWords(room)} more are free. The price: no image comes {lost.join(' or ')} any
            more, only {left.join(' or ')}, every time. Build again after you change this.
          </p>
          {does ? (
            <Button variant="default" onClick={() => void set(false, 'Without a bootloader')}>
              Do without a bootloader
            </Button>
          ) : (
            <Button variant="default" onClick={() => void set(undefined, 'With a bootloader')}>
              Go back to one with a bootloader
            </Button>
          )}
        </>
      )}
    </>
  );
}

/** Installing one is a job of its own, by wires. */
function Install({ tool, known }: Tool & { known: BootloaderKnown }) {
  const { board, chip } = useWorkbench();
  const live = usePowered(isLive);
  const { board: onBench } = useStation();
  const [asking, setAsking] = useState(false);
  const route = board.routes.find(isWired);
  const kind = TOOL_ROUTES.find((name) => name === route?.kind);
  const erases = chip.programming?.unlock_erases === true;
  const holds = holdsWords(onBench);
  const steps = [
    { title: 'Power off, everything out', act: 'Switch the supply off and pull its plug. Pull the USB lead.', caution: 'Wiring a live board burns board and tool. Unplug first, and touch ground.', done: !live },
    { title: 'Wire the tool', act: 'From label to label as drawn.', done: false },
    { title: 'Install it', act: `${erases ? `Unlock ${chip.name}: that erases everything in it, stored settings too. ` : ''}Write the bootloader, read it back, and lock it again.`, done: known.is === 'there' },
  ]; // prettier-ignore
  useArmsSteps(steps);
  if (!route || !kind) return <p>This board has no pads for a tool: a bootloader can only be bought in.</p>;
  const install = () => {
    if (!asking) return setAsking(true);
    setAsking(false);
    void tool.start(kind, 'bootloader');
  };
  return (
    <>
      <h3>Install one</h3>
      <p className="soft">
        {known.is === 'there' &&
          `There is one already (${known.because}); install it anew only where it is damaged. `}
        Lock words and bootloader belong to the way back: keep both in Survey first, where the chip gives
        them.
      </p>
      <div className={css.two}>
        <ol className={css.steps}>
          {steps.map((step, index) => (
            <FlashStep key={step.title} title={step.title} done={step.done}>
              {step.caution && <p className={css.caution}>{step.caution}</p>}
              <p>{step.act}</p>
              {index === 0 && <PowerOff />}
              {index === 2 && (
                <>
                  <Button
                    disabled={live || tool.running || tool.busy}
                    color={asking ? 'vermilion' : 'brass'}
                    onClick={install}
                  >
                    {asking
                      ? erases
                        ? `Erase everything in the chip (${holds}) and install it`
                        : 'Overwrite the first bytes of the flash with it'
                      : 'Install the bootloader'}
                  </Button>
                  <ToolProgress tool={tool} />
                  <Refused why={tool.refused} />
                </>
              )}
            </FlashStep>
          ))}
        </ol>
        <ProgrammerWiring route={route} />
      </div>
    </>
  );
}
