import { FLASH_FAULTS } from './flashFaults';
import type { Fault } from './fault';
import { MACHINE_FAULTS } from './machineFaults';

/** Everything that can be wrong, by name. */
export const FAULTS: readonly Fault[] = [...MACHINE_FAULTS, ...FLASH_FAULTS];

export const faultNamed = (name: string): Fault | undefined => FAULTS.find((fault) => fault.name === name);
