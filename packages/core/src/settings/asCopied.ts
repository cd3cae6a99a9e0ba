import type { Machine, MachinePart } from '../machine/machine';
import { measuredBy } from './measured';

/**
 * A machine as it is taken for another one of its kind: what it is, and nothing that was measured, looked at or set aside
 * on it. Where the nozzle of one meets its plate, that of its twin may be rammed into it.
 */
export function asCopied(machine: Machine): Machine {
  const {
    bed_map: _map,
    readings: _read,
    waivers: _aside,
    jumpers: _jumpers,
    mark: _mark,
    ...rest
  } = machine;
  const { marking: _marking, copy: _copy, ...board } = machine.board;
  const settings = Object.entries(machine.settings).filter(
    ([key, { measured_with: measured }]) => measured === undefined && !measuredBy(key),
  );
  return {
    ...rest,
    board: { ...board, revision_seen: false },
    ...(rest.probe_mount && { probe_mount: unmeasured(rest.probe_mount) }),
    parts: machine.parts.map(({ copy: _old, ...part }): MachinePart => part),
    settings: Object.fromEntries(settings),
  };
}

function unmeasured({
  z_mm: _offset,
  stowed_mm: _stowed,
  ...mount
}: NonNullable<Machine['probe_mount']>): NonNullable<Machine['probe_mount']> {
  return mount;
}
