import type { HandWork } from '@jolly/core/bringup/procedure';
import { type Facts, partsOf } from '@jolly/core/machine/facts';
import { bodyCalled } from '@jolly/core/machine/bodyCalled';
import { fanCalled } from '@jolly/core/machine/fanCalled';
import { heatedBodies, sensedBodies } from '@jolly/core/proofs/bodies';

export interface HandGroup {
  title: string;
  works: readonly HandWork[];
}

/** What hands can do at this machine, by kind. */
export function handGroups(facts: Facts): HandGroup[] {
  const sensors = sensedBodies(facts);
  const press: HandWork[] = [
    ...partsOf(facts, 'switch').map(({ id, role }) => ({
      do: 'press' as const,
      part: id,
      label: `${role.toUpperCase()} switch`,
    })),
    ...partsOf(facts, 'probe').map(({ id }) => ({
      do: 'press' as const,
      part: id,
      label: 'Something under the probe',
    })),
    ...partsOf(facts, 'filament-sensor').map(({ id }) => ({
      do: 'press' as const,
      part: id,
      label: 'Filament out',
    })),
  ];
  const groups: HandGroup[] = [
    { title: 'Press', works: press },
    { title: 'Warm by hand', works: sensors.map(({ sensor, called }) => ({ do: 'warm', part: sensor, label: `${called} sensor` })) },
    { title: 'Cool', works: heatedBodies(facts).map(({ name }) => ({ do: 'cool', part: partsOf(facts, 'heater').find(({ role }) => role === name)?.id ?? name, label: bodyCalled(name) })) },
    { title: 'Pull the plug of', works: [
      ...sensors.map(({ sensor, called }) => ({ do: 'pull' as const, part: sensor, label: `${called} sensor` })),
      ...partsOf(facts, 'switch').map(({ id, role }) => ({ do: 'pull' as const, part: id, label: `${role.toUpperCase()} switch` })),
      ...partsOf(facts, 'fan').map(({ id, role }) => ({ do: 'pull' as const, part: id, label: fanCalled(role) })),
    ] },
  ]; // prettier-ignore
  return groups.filter(({ works }) => works.length > 0);
}
