import { describe, expect, it } from 'vitest';
import { applyEdits } from '../src/machine/edit';
import { demoMachine, findingsAfter, own } from './fixtures/demo';

describe('what only the machine decides', () => {
  it.each([
    ['frame.kinematics', 'cross-belt', 'stop'],
    ['probe.kind', 'inductive', 'stop'],
    ['probe.kind', 'none', 'note'],
    ['driver.line', 'pot', 'stop'],
    ['second-z.on', true, 'stop'],
    ['extruder.second', true, 'stop'],
    ['sensor.hotend', 't10-c', 'mend'],
    ['switch.x.pressed', 'low', 'mend'],
    ['bed.heated', false, 'mend'],
    ['probe.deploy', 900, 'mend'],
    ['probe.stow', 1300, 'mend'],
  ] as const)('%s set to %s by hand is told, and goes back to the facts', (key, value, severity) => {
    const [said, ...others] = findingsAfter('plover', own(key, value)).filter(({ id }) => id === 'fact.overruled'); // prettier-ignore
    expect([said?.severity, said?.subject.id, others]).toEqual([severity, key, []]);
    const back = applyEdits(demoMachine('plover'), [own(key, value), ...(said?.remedies[0]?.edits ?? [])]);
    expect(back.settings).toEqual(demoMachine('plover').settings);
  });

  it('a pulse some degrees off is how one mounts a servo', () => {
    expect(findingsAfter('plover', own('probe.deploy', 780))).toEqual(findingsAfter('plover'));
  });
});

it('the pulse that is set bounds how fast an axis may go, as the driver’s own does', () => {
  // 25 000 pulses/s at 20 µs up and 20 µs down, 100 steps/mm.
  const told = (speed: number) => findingsAfter('plover', own('pulse.width', 20), own('speed.x', speed)).filter(({ id }) => id === 'motion.pulse-rate').map(({ subject }) => subject.id); // prettier-ignore
  expect(told(250)).toEqual([]);
  expect(told(251)).toEqual(['speed.x']);
});

it('a motor that would hardly turn is to be mended, one with little is noted', () => {
  const told = (amps: number) => findingsAfter('plover', own('current.x', amps)).find(({ id }) => id === 'driver.low')?.severity; // prettier-ignore
  expect([told(0.05), told(0.3), told(0.6)]).toEqual(['mend', 'note', undefined]);
});
