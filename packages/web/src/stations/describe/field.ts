import type { AnswerValue, Question } from '@jolly/core/describe/question';

/** A question and its answer, as every kind of field gets them. */
export interface Field<Q extends Question = Question> {
  question: Q;
  /** Undefined: not answered. Null: not known yet. */
  given: AnswerValue | null | undefined;
  /** Gives an answer; a refusal comes back in words. */
  onAnswer: (value: AnswerValue | null) => Promise<string | undefined>;
}
