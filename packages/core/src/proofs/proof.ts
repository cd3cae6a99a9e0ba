import { isMeanwhile } from '../bringup/boardReading';
import type { Answer, Choice, Procedure, Run } from '../bringup/procedure';
import type { ImageHeader } from '../image/imageHeader';

/** What a bring-up test came to, with the replies it rests on. */
export interface Judged {
  outcome: 'proven' | 'failed';
  evidence: string[];
  /** What was found instead, by which its causes are told. */
  finding?: string;
}

/** What may be behind a finding, and where to look next. */
export interface Cause {
  cause: string;
  look: string;
  /** Where it is mended, if that is a station. */
  at?: 'wiring' | 'settings' | 'build' | 'flash';
}

/** One step of bring-up as it is told. */
export interface ProofStep {
  id: string;
  title: string;
  /** What a person does, in one or two sentences. */
  act: string;
  caution?: string;
  /** The facts it rests on (see machine/touched.ts); when one of them changes, the proof is void. */
  restsOn: readonly string[];
  /** Steps that are proven first: without them it could hurt, or would prove nothing. */
  after: readonly string[];
  /** By finding, the likeliest cause first. */
  causes: Readonly<Record<string, readonly Cause[]>>;
  /** It shows that a guard acts. */
  guards?: true;
}

/** One step of bring-up with how it is carried out and judged. `built` is the header of the image that was built last. */
export interface Proof extends ProofStep {
  run(built: ImageHeader | undefined): Procedure<Judged>;
}

/** What a judge says: proven, or what was found instead. */
export interface Verdict {
  finding?: string;
  evidence: string[];
}

export const proven = (...evidence: string[]): Verdict => ({ evidence });
export const found = (finding: string, ...evidence: string[]): Verdict => ({ finding, evidence });

/** What the board said instead of an answer, as evidence. */
export const problemOf = ({ problem = 'no reply', lines }: Answer): string[] => [
  problem,
  ...lines.filter((line) => line !== problem && !isMeanwhile(line)),
];

/** Findings that every step may end with: it was given up, or the board did not answer as it should. */
const ENDED = { gaveUp: 'given up', refused: 'refused' } as const;

type Told = Omit<ProofStep, 'after' | 'causes'> & Partial<Pick<ProofStep, 'after' | 'causes'>>;

/** A step whose run ends with what was seen, which is judged apart, or with the answer that ended it early. */
export function proof<Seen>(
  step: Told,
  run: () => Run<Seen>,
  judge: (seen: Seen, built: ImageHeader | undefined) => Verdict,
): Proof {
  return {
    after: [],
    causes: {},
    ...step,
    *run(built) {
      const result = yield* run();
      const verdict = 'ended' in result ? endedBy(result.ended) : judge(result.seen, built);
      const { finding, evidence } = verdict;
      return finding === undefined
        ? { outcome: 'proven', evidence }
        : { outcome: 'failed', finding, evidence };
    },
  };
}

/** A step that ends with what a person saw: proven by the first of the choices, else found what they say. */
export const proofBySight = (step: Told, choices: readonly Choice[], run: () => Run<string>): Proof =>
  proof(step, run, (chosen) => {
    const evidence = `you saw: ${choices.find(({ id }) => id === chosen)?.label.toLowerCase()}`;
    return chosen === choices[0]?.id ? proven(evidence) : found(chosen, evidence);
  });

export const GAVE_UP = 'you gave up';
function endedBy(answer: Answer): Verdict {
  return found(answer.problem === GAVE_UP ? ENDED.gaveUp : ENDED.refused, ...problemOf(answer));
}

/** The causes of what a step found, the likeliest first; none where nothing is known of it. */
export const causesOf = (
  { causes }: Pick<ProofStep, 'causes'>,
  finding: string | undefined,
): readonly Cause[] => (finding !== undefined && Object.hasOwn(causes, finding) && causes[finding]) || [];
