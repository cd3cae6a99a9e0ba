import type { HandWork } from '../bringup/procedure';
import { type Facts, partFor, partsOf, type PlacedPart } from '../machine/facts';
import { AXES, type Axis } from '../machine/machine';
import { type Proof, proof } from './proof';
import { inputCauses, judgeBothWays, readBothWays, type ReadInput, switchInput } from './readBothWays';

/** Every switch is read as it is pressed, and the filament sensor as the filament is there or not. */
export const inputProofs = (facts: Facts): Proof[] => [
  ...AXES.flatMap((axis) => {
    const part = partFor(facts, 'switch', axis);
    return part ? [switchProof(axis, part)] : [];
  }),
  // A second one is read by no image.
  ...partsOf(facts, 'filament-sensor').slice(0, 1).map(filamentProof),
];

function switchProof(axis: Axis, { id: part, type }: PlacedPart): Proof {
  const name = axis.toUpperCase();
  const input = switchInput(part, axis);
  const work: HandWork = { do: 'press', part, label: `Press the ${name} switch` };
  return proof(
    {
      id: `switch-${axis}`,
      title: `${name} switch reads both ways`,
      act: `Press the ${name} switch by hand and let go. The board should read it closed, then open.`,
      caution: 'Moving axes pinch. Keep motors idle and your fingers off belts.',
      restsOn: ['board', `switch.${axis}`, 'landing.switch', 'frame.switches'],
      after: ['identity'],
      causes: inputCauses(type),
    },
    () => readBothWays(input, work, `Press the ${name} switch, then let it go.`),
    (seen) => judgeBothWays(input, seen),
  );
}

function filamentProof({ id: part, type }: PlacedPart): Proof {
  const input: ReadInput = { part, line: 'state', word: 'filament', value: 'state', rest: 'there', worked: 'gone' };
  const work: HandWork = { do: 'press', part, label: 'Draw the filament out' };
  return proof(
    {
      id: 'filament',
      title: 'The filament sensor reads both ways',
      act: 'Push a piece of filament into the sensor, draw it out, and push it in again. The board should read it there, gone, there.',
      restsOn: ['board', 'filament-sensor.*', 'landing.filament-sensor'],
      after: ['identity'],
      causes: inputCauses(type),
    },
    () => readBothWays(input, work, 'With filament in the sensor, draw it out, then push it in again.'),
    (seen) => judgeBothWays(input, seen),
  );
} // prettier-ignore
