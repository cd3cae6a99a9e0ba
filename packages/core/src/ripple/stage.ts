import type { Facts } from '../machine/facts';
import type { ProofStep } from '../proofs/proof';
import type { Settings } from '../settings/setting';
import type { Touched } from '../machine/touched';

/** One change being made, or all of them: the machine on both sides, and the facts that differ. */
export interface Stage {
  before: Facts;
  after: Facts;
  settingsBefore: Settings;
  settingsAfter: Settings;
  /** What there is to prove on both sides. */
  proofsBefore: readonly ProofStep[];
  proofsAfter: readonly ProofStep[];
  touched: Touched;
}
