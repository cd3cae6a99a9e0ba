import type { Facts } from '../machine/facts';
import type { MachineRecord } from './record';
import type { Settings } from '../settings/setting';
import type { Severity, Spoken } from '../finding/finding';

export interface Check {
  id: string;
  severity: Severity;
  /** Pieces of the record without which it does not speak. */
  needs?: readonly (keyof MachineRecord)[];
  run: (facts: Facts, settings: Settings, record: MachineRecord) => Spoken[];
}

/** A record in which these pieces are known. */
export type Having<K extends keyof MachineRecord> = MachineRecord & Required<Pick<MachineRecord, K>>;

function has<K extends keyof MachineRecord>(record: MachineRecord, needs: readonly K[]): record is Having<K> {
  return needs.every((piece) => record[piece] !== undefined);
}

/** A check that rests on pieces of the record: it is given them, and does not speak while one is missing. */
export function needing<K extends keyof MachineRecord>(
  needs: readonly K[],
  run: (facts: Facts, settings: Settings, record: Having<K>) => Spoken[],
): Pick<Check, 'needs' | 'run'> {
  return {
    needs,
    run: (facts, settings, record) => (has(record, needs) ? run(facts, settings, record) : []),
  };
}
