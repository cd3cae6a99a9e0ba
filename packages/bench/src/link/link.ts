import type { Silence } from '../board/board';

/** How a machine woke up: it runs, or is silent. */
export type Woken = Silence | { silent?: undefined };

/** A line to a machine, real or on the bench. Everything that talks to a machine talks through this. */
export interface Link {
  readonly kind: 'bench' | 'real';
  /**
   * Opens it: from now on every line that the machine sends is told, with the machine's clock in s, until it is closed. Resolves once the machine runs,
   * or with why it is silent; never when it is closed before.
   */
  open(hear: (line: string, atS: number) => void): Promise<Woken>;
  close(): void;
  writeLine(line: string): void;
}
