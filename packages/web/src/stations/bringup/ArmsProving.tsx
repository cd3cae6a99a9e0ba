import type { Proof as Outcome, VoidedProof } from '@jolly/contract/endpoints/board';
import type { Proof } from '@jolly/core/proofs/proof';
import { unreadyFor } from '@jolly/core/proofs/proofs';
import { standsIn } from '@jolly/core/bringup/handAct';
import { useHotkeys } from '@mantine/hooks';
import { createPortal } from 'react-dom';
import { useStation } from '../../app/frame/StationContext';
import { useBench, usePowered } from '../../bench/BenchProvider';
import css from './ArmsProving.module.css';
import { actOf } from '@jolly/core/bringup/handAct';
import { voidInWords } from './proofSlips';
import type { Prompt } from './useProving';

interface Proving {
  steps: readonly Proof[];
  proofs: readonly Outcome[];
  voided: readonly VoidedProof[];
  awake: boolean;
  running: string | undefined;
  prompt: Prompt | undefined;
  run: (step: Proof) => void;
  answer: (chosen: string) => void;
  giveUp: () => void;
}

/** The step at arm's length, tested there: `p` tests it, a number answers, `g` gives up. */
export function ArmsProving(proving: Proving) {
  const { arms } = useStation();
  const step = arms && proving.steps[arms.at];
  return step ? createPortal(<Step step={step} {...proving} />, arms.slot) : null;
}

interface Key {
  key: string;
  label: string;
  act: () => void;
}

function Step({ step, ...proving }: Proving & { step: Proof }) {
  const { steps, proofs, voided, running, prompt } = proving;
  const proof = proofs.find((entry) => entry.step === step.id);
  const first = unreadyFor(step, { steps, proofs });
  const keys = useStepKeys(step, first.length === 0, proving);
  useHotkeys(
    keys.map(({ key, act }) => [key, act]),
    [],
  );
  return (
    <div className={css.step}>
      {running === step.id && prompt && (
        <p className={css.prompt} role="status">
          {prompt.text}
        </p>
      )}
      {running !== step.id && (
        <p className={css.state}>
          {stateOf({ proof, first, lapsed: voided.find((entry) => entry.step === step.id) }, proving.awake)}
        </p>
      )}
      <div className={css.keys}>
        {keys.map(({ key, label, act }) => (
          <button key={key} type="button" onClick={act}>
            {label} <kbd>{key}</kbd>
          </button>
        ))}
      </div>
    </div>
  );
}

interface Known {
  proof: Outcome | undefined;
  /** Steps that have to be proven before it. */
  first: readonly { title: string }[];
  /** What was tested of it, and does not hold any more. */
  lapsed: VoidedProof | undefined;
}

function stateOf({ proof, first, lapsed }: Known, awake: boolean): string {
  if (proof?.outcome === 'proven') return `Proven: ${proof.evidence.join('; ')}`;
  if (first.length > 0) return `First: ${first.map(({ title }) => title).join('; ')}.`;
  if (proof) return `Not so: ${proof.evidence.join('; ')}`;
  if (!awake) return 'The power is off. Switch it on at Bring-up.';
  return lapsed ? `To be tested again: ${voidInWords(lapsed)}.` : 'Not tested yet.';
}

/** What can be done at a step now, each by its key. */
function useStepKeys(
  step: Proof,
  ready: boolean,
  { awake, running, prompt, run, answer, giveUp }: Proving,
): Key[] {
  const { hand } = useBench();
  const hands = usePowered((now) => now.hands);
  if (running === undefined)
    return awake && ready ? [{ key: 'p', label: 'Test it', act: () => run(step) }] : [];
  if (running !== step.id || !prompt) return [];
  const { work, question } = prompt;
  const on = work && standsIn(hands, actOf(work, true));
  return [
    ...(work ? [{ key: 'h', label: on ? 'Let go' : work.label, act: () => hand(actOf(work, !on)) }] : []),
    ...(question?.choices ?? []).map(({ id, label }, index) => ({
      key: `${index + 1}`,
      label,
      act: () => answer(id),
    })),
    ...(prompt.over ? [] : [{ key: 'g', label: 'Give up', act: giveUp }]),
  ];
}
