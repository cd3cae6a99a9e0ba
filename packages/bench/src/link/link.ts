/** A line to a machine, real or on the bench. Everything that talks to a machine talks through this. */
export interface Link {
  readonly kind: 'bench' | 'real';
  /** Opens the link; refused with the holder's name when somebody else has it. */
  open(): Promise<void>;
  close(): Promise<void>;
  writeLine(line: string): void;
  /** Every line the machine sends from now on, until the link is closed. */
  lines(): AsyncIterable<string>;
  /** What is at the other end, in words. */
  identity(): string;
}
