import { Button, NativeSelect } from '@mantine/core';
import { useStation } from '../../app/frame/StationContext';
import { type BenchControl, useBench } from '../../bench/BenchProvider';
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
  const { board } = useStation();
  const awake = bench.power.state === 'on' && bench.power.silent === undefined;
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

function powerInWords(bench: BenchControl, flashed: boolean): string {
  switch (bench.power.state) {
    case 'off':
      return flashed ? 'The power is off.' : 'The power is off, and no flash is on record.';
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
