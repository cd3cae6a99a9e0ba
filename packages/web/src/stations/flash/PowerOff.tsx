import { Button } from '@mantine/core';
import { isLive } from '@jolly/session/power';
import { useBench, usePowered } from '../../bench/BenchProvider';

/** Shown while there is power: nothing is plugged on a live board. */
export function PowerOff() {
  const { powerOff } = useBench();
  const live = usePowered(isLive);
  return (
    live && (
      <Button variant="default" onClick={powerOff}>
        Switch the power off
      </Button>
    )
  );
}
