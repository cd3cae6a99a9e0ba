import { type Facts, partsOf } from './facts';

/** Every servo there is, that of the probe first, with the time it takes to arrive. */
export function servosOf(facts: Facts): { id: string; arrive_s: number | undefined }[] {
  const probes = partsOf(facts, 'probe').filter(({ type }) => type.servo_us !== undefined);
  return [...probes, ...partsOf(facts, 'servo')].map(({ id, type }) => ({ id, arrive_s: type.arrive_s }));
}

/** Names of the servos' settings, in their order. */
export const SERVOS = ['a', 'b', 'c', 'd'] as const;
