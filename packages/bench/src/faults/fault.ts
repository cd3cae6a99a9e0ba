import type { Facts } from '@jolly/core/machine/facts';
import type { BoardState } from '../board/boardState';
import type { Card } from '../board/card';
import type { Live } from '../plant/live';

/** What lies around a machine when it is flashed and talked to. */
export interface Surroundings {
  card: Card;
  state: BoardState;
  /** The speed a host talks at, where it is not the image's. */
  hostBaud: number | undefined;
  /** Another program has the port. */
  portHeld: boolean;
  /** The tool says that writing failed, whatever came of it. */
  toolFails: boolean;
  /** Two wires of the programmer or probe are exchanged. */
  wiresExchanged: boolean;
}

/** Something that is wrong, laid by name. */
export interface Fault {
  name: string;
  /** What is wrong. */
  what: string;
  /** What a person sees of it. */
  symptom: string;
  /** How it is found. */
  found: string;
  /** In the machine: at once. */
  inMachine?: (live: Live) => void;
  /** Around it: from the next flashing or switching on. */
  around?: (at: Surroundings, facts: Facts) => void;
}
