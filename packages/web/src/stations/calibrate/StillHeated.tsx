import { Button } from '@mantine/core';
import { keptHot } from '@jolly/core/bringup/boardReading';
import { coldLines } from '@jolly/core/bringup/heatLines';
import { isAwake } from '@jolly/session/power';
import { useEffect, useState } from 'react';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import css from './Calibrate.module.css';

/** What a tool has warmed stays warm for the next one: said while nothing is measured, with the way to end it. */
export function StillHeated() {
  const { ask } = useBench();
  const { facts } = useWorkbench();
  const awake = usePowered(isAwake);
  const hot = usePowered(({ readings }) => keptHot(readings).join(', '));
  const { act, busy, refused } = useAct();
  const asked = useAskedAnew(awake);
  const cool = () =>
    act(async () => {
      for (const line of coldLines(facts)) {
        const { problem } = await ask(line);
        if (problem !== undefined) return `${line}: ${problem}`;
      }
      return undefined;
    });
  if (!awake || !asked || hot === '') return null;
  return (
    <>
      <div className="row">
        <p className={css.stillHeated}>{`Kept hot: ${hot}. It stays so until you cool it down.`}</p>
        <Button size="xs" variant="default" loading={busy} onClick={() => void cool()}>
          Cool down
        </Button>
      </div>
      <Refused why={refused} />
    </>
  );
}

/** Whether the board has said since how warm it is: what it said before the tool ended may be over. */
function useAskedAnew(awake: boolean): boolean {
  const { ask } = useBench();
  const [asked, setAsked] = useState(false);
  useEffect(() => {
    if (!awake) return undefined;
    let here = true;
    void ask('M105').then(() => here && setAsked(true));
    return () => {
      here = false;
    };
  }, [ask, awake]);
  return asked;
}
