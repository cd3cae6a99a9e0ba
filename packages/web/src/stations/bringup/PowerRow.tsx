import { Button, NativeSelect } from '@mantine/core';
import { useStation } from '../../app/frame/StationContext';
import { isLive, type Power } from '@jolly/session/power';
import { useBench, usePowered } from '../../bench/BenchProvider';
import css from './BringUpStation.module.css';

const PACES = [
  { value: '1', label: 'real time' },
  { value: '5', label: '5 × faster' },
  { value: '20', label: '20 × faster' },
  { value: 'Infinity', label: 'as fast as can be, while it works' },
];

/** The power of the machine on the bench, how fast its clock runs, and how it stands. */
export function PowerRow() {
  const bench = useBench();
  const power = usePowered((now) => now.power);
  const live = usePowered(isLive);
  const pace = usePowered((now) => now.pace);
  const ranS = usePowered(({ look }) => Math.round(look?.nowS ?? 0));
  const { board } = useStation();
  return (
    <section className={css.powerRow} aria-label="Power">
      {live ? (
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
        value={String(pace)}
        onChange={(event) => bench.setPace(Number(event.currentTarget.value))}
      />
      <p className={css.powerWord}>{powerInWords(power, ranS, board?.imageHash != null)}</p>
    </section>
  );
}

function powerInWords(power: Power, ranS: number, flashed: boolean): string {
  switch (power.state) {
    case 'off':
      return flashed ? 'The power is off.' : 'The power is off, and no flash is on record.';
    case 'starting':
      return 'The board wakes up.';
    case 'held':
      return `The link is held by ${power.by}. Close it there first.`;
    case 'on':
      return power.silent
        ? `The board is silent: ${power.silent}. ${power.mend}`
        : `Running for ${ranS} s on the bench's clock.`;
  }
}
