import { Link } from 'react-router';
import { EFFORT_KEY } from '@jolly/core/fit/chooseFit';
import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { useWorkbench } from '../../workbench/Workbench';
import { effortInWords } from '../build/effortInWords';
import { useCostRun } from '../build/useCosts';

/** What a feature takes in this machine's image, where it was measured, and whether that is from before the last change. */
export function MeasuredCost({ optionKey }: { optionKey: string }) {
  const { machine, version } = useWorkbench();
  const run = useCostRun();
  const there = <Link to={`/machines/${machine.id}/build?view=fit`}>What everything takes</Link>;
  if (run?.state !== 'done') return <p>What it takes in the image is not measured yet. {there}</p>;
  const { features, bound, effort } = run.costs;
  const stale =
    run.machineVersion === version ? '' : ' It was measured before the last change to this machine.';
  if (optionKey === EFFORT_KEY)
    return (
      <p>
        {effort ? effortInWords(effort) : 'What another effort would take is not measured.'}
        {stale} {there}
      </p>
    );
  const cannot = bound.find(({ key }) => key === optionKey);
  if (cannot)
    return (
      <p>
        Not measured: {cannot.because} {there}
      </p>
    );
  const found = features.find(({ key }) => key === optionKey);
  if (!found) return <p>What it takes in the image is not measured. {there}</p>;
  const { flash, ram } = found.cost;
  return (
    <p>
      {found.on ? 'Without it' : 'With it'} {bytesInWords(flash)} of flash and {bytesInWords(ram)} of RAM{' '}
      {found.on ? 'become free' : 'are taken'}, as built.{stale} {there}
    </p>
  );
}
