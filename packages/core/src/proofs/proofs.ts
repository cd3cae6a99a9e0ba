import type { Facts } from '../machine/facts';
import { derive } from '../settings/derive';
import type { Settings } from '../settings/setting';
import { closedProof } from './closed';
import { guardProofs } from './guards';
import { heaterProofs } from './heaters';
import { homingProofs } from './homing';
import { identityProof, STORE } from './identity';
import { inputProofs } from './inputs';
import { lampProofs } from './lamp';
import { extruderProofs, motorProofs } from './motors';
import { fanProofs, servoProofs } from './outputs';
import { displayProofs, driverProofs } from './panel';
import { probeProofs } from './probe';
import type { Judged, Proof, ProofStep } from './proof';
import { relayProofs } from './relay';
import { sensorProofs } from './sensors';

/** What bring-up proves about a machine, in an order in which nothing can be hurt. */
export function proofsOf(facts: Facts, settings: Settings = derive(facts)): Proof[] {
  const heaters = heaterProofs(facts);
  const proofs = [
    identityProof(facts),
    STORE,
    ...sensorProofs(facts),
    ...inputProofs(facts),
    ...displayProofs(facts, settings),
    ...driverProofs(facts, settings),
    ...motorProofs(facts),
    ...probeProofs(facts, settings),
    ...servoProofs(facts),
    ...lampProofs(facts),
    ...relayProofs(facts),
    ...heaters,
    ...fanProofs(facts, settings),
    ...extruderProofs(facts, settings),
    ...homingProofs(facts, settings),
    ...guardProofs(facts, settings),
    closedProof(facts),
  ];
  // A machine that lacks a part lacks what is proven of it: nothing waits for that.
  const known = new Set(proofs.map(({ id }) => id));
  return proofs.map((proof) =>
    proof.after.every((id) => known.has(id))
      ? proof
      : { ...proof, after: proof.after.filter((id) => known.has(id)) },
  );
}

/** The same as it is told: what a person does, what it rests on, and what may be behind what it finds. */
export const proofSteps = (facts: Facts, settings?: Settings): ProofStep[] =>
  proofsOf(facts, settings).map(({ run: _run, ...step }) => step);

/** Whether what a step proved rests on what the board stores. */
export const restsOnStored = (step: string): boolean => step === STORE.id;

/** Steps that have to be proven before a step is, and are not. */
export function unreadyFor(
  { after }: Pick<ProofStep, 'after'>,
  {
    steps,
    proofs,
  }: { steps: readonly ProofStep[]; proofs: readonly { step: string; outcome: Judged['outcome'] }[] },
): ProofStep[] {
  const proven = new Set(proofs.filter(({ outcome }) => outcome === 'proven').map(({ step }) => step));
  return steps.filter(({ id }) => after.includes(id) && !proven.has(id));
}
