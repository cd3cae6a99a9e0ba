import { Button } from '@mantine/core';
import { useBench } from '../../bench/BenchProvider';

/** Shown while there is power: nothing is plugged on a live board. */
export function PowerOff() {
  const { live, powerOff } = useBench();
  return (
    live && (
      <Button variant="default" onClick={powerOff}>
        Switch the power off
      </Button>
    )
  );
}
