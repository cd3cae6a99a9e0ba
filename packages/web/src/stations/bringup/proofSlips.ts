import type { Proof as Outcome, VoidedProof } from '@jolly/contract/endpoints/board';
import type { Proof } from '@jolly/core/proofs/proof';
import { causesOf } from '@jolly/core/proofs/proof';
import { unreadyFor } from '@jolly/core/proofs/proofs';
import { STATIONS } from '@jolly/session/progress';
import type { Slip } from '../../app/docket/slip';
import { whenOf } from '../../ui/when';

interface Proving {
  steps: readonly Proof[];
  proofs: readonly Outcome[];
  voided: readonly VoidedProof[];
  awake: boolean;
  running: string | undefined;
  run: (step: Proof) => void;
}

/** Where a slip stands: what failed first, then what can be proven now, then what waits, then what is proven. */
const PLACE = { failed: 0, ready: 1, waiting: 2, proven: 3 } as const;

/** The steps of bring-up as slips, in working order within each kind. */
export function proofSlips(machine: string, proving: Proving): Slip[] {
  const { steps, proofs } = proving;
  const outcomes = new Map(proofs.map((proof) => [proof.step, proof]));
  const placed = steps.map((step) => {
    const proof = outcomes.get(step.id);
    const first = unreadyFor(step, { steps, proofs });
    const place = proof ? proof.outcome : first.length > 0 ? 'waiting' : 'ready';
    return { place: PLACE[place], slip: slipOf(machine, step, proof, first, proving) };
  });
  return placed.sort((a, b) => a.place - b.place).map(({ slip }) => slip);
}

function slipOf(
  machine: string,
  step: Proof,
  proof: Outcome | undefined,
  first: readonly { title: string }[],
  { awake, running, run, voided }: Proving,
): Slip {
  const isProven = proof?.outcome === 'proven';
  const causes = proof && !isProven ? causesOf(step, proof.finding) : [];
  const canRun = awake && first.length === 0 && (running === undefined || running === step.id);
  return {
    id: step.id,
    severity: proof === undefined ? 'todo' : isProven ? 'proven' : 'stop',
    what: step.title,
    why: !isProven && first.length > 0 ? `First: ${first.map(({ title }) => title).join('; ')}.` : step.act,
    ...(step.caution && !isProven && first.length === 0 && { caution: step.caution }),
    evidence: proof
      ? [...proof.evidence, whenOf(proof.at)]
      : voided.filter((one) => one.step === step.id).map(voidInWords),
    ...(isProven && { settled: true }),
    causes: causes.map(({ cause, look, at }) => ({
      cause,
      look,
      ...(at && { go: { to: `/machines/${machine}/${at}${viewOf(step.id, at)}`, title: titleOf(at) } }),
    })),
    actions: canRun
      ? [{ label: proof ? 'Test again' : 'Test it', run: () => run(step), running: running === step.id }]
      : [],
  };
}

/** What was tested and holds no more, and why. */
export const voidInWords = ({ outcome, because, at }: VoidedProof): string =>
  `${outcome === 'proven' ? 'proven' : 'not so'} ${whenOf(at)}, and void since: ${because}`;

const titleOf = (station: string) => STATIONS.find(({ id }) => id === station)?.title ?? station;
/** A motor that went the wrong way is settled by the directions doctor. */
const viewOf = (step: string, station: string) =>
  station === 'settings' && step.startsWith('motor-') ? '?view=directions' : '';
