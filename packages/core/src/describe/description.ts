import Joi from 'joi';
import type { Catalogue } from '../catalogue/catalogue';
import { boardBy, partById } from '../catalogue/catalogue';
import { type Machine, machineSchema } from '../machine/machine';
import { LONGEST_DUMP } from '../text/limits';
import { line, lines } from '../text/plainText';
import { QUESTIONS } from './pages';
import { type Answers, NONE, type Question } from './question';
import { once } from '../tree/once';

/** A machine that is being described: what was answered so far, and where an answer came from. */
export interface Description {
  jolly: 'description/1';
  answers: Answers;
  /** By question, where the answer was read, where nobody looked: `the settings report, line 4: M92 X80`. */
  origins?: Readonly<Record<string, string>>;
  /** The machine it is a copy of; what no question asks for is kept from it. */
  base?: Machine;
  /** The settings report it began from, as it was given. */
  report?: string;
  /** Values by option that the old board reported, and where. */
  measured?: Readonly<Record<string, { value: number; because: string }>>;
}

export const NEW_DESCRIPTION: Description = { jolly: 'description/1', answers: {} };

const name = () => Joi.string().pattern(/^[a-z]+([._][a-z_-]+)*$/).max(40); // prettier-ignore

/** Guards a description from outside; whether its answers fit their questions is for `misfits` to say. */
export const descriptionSchema = once(() =>
  Joi.object<Description>({
    jolly: Joi.valid('description/1').required(),
    answers: Joi.object()
      .pattern(name(), Joi.alternatives(Joi.number().unsafe(), Joi.boolean(), lines(500)).allow(null))
      .max(QUESTIONS.length)
      .required(),
    origins: Joi.object().pattern(name(), line(200)).max(QUESTIONS.length),
    base: machineSchema(),
    report: Joi.string().max(LONGEST_DUMP),
    measured: Joi.object()
      .pattern(
        /^[a-z0-9]+([.-][a-z0-9]+)*$/,
        Joi.object({ value: Joi.number().required(), because: line(200).required() }),
      )
      .max(200),
  }),
);

/** Questions that are asked, by what was answered so far. */
export const asked = (answers: Answers, questions: readonly Question[] = QUESTIONS): Question[] =>
  questions.filter(({ when }) => when === undefined || when(answers));

/** What stands between a description and a machine file: the questions that need an answer and have none. */
export const openOf = ({ answers }: Description): Question[] =>
  asked(answers).filter(({ id, needed }) => needed && answers[id] == null);

/** What is asked and nobody could say: it stands in the machine file as a question. A note nobody wrote is none. */
export const leftOpen = ({ answers }: Description): Question[] =>
  asked(answers).filter(
    ({ id, kind, unsaid }) =>
      answers[id] == null && kind !== 'text' && (unsaid === undefined || answers[id] === null),
  );

/** What is asked, was passed over, and is taken for what few machines are without saying so. */
export const passedOver = ({ answers }: Description): Question[] =>
  asked(answers).filter(({ id, unsaid }) => unsaid !== undefined && answers[id] === undefined);

/** Answers that do not fit their question, each in a sentence. */
export function misfits({ answers }: Description, catalogue: Catalogue): { id: string; why: string }[] {
  return Object.entries(answers).flatMap(([id, value]) => {
    if (value === null) return [];
    const question = QUESTIONS.find((entry) => entry.id === id);
    const why = question ? misfit(question, value, catalogue) : 'there is no such question';
    return why === undefined ? [] : [{ id, why }];
  });
}

function misfit(question: Question, value: unknown, catalogue: Catalogue): string | undefined {
  const { label } = question;
  switch (question.kind) {
    case 'number': {
      const [least, most] = question.range;
      const unit = question.unit && ` ${question.unit}`;
      if (typeof value !== 'number' || value < least || value > most || (question.whole && value % 1 !== 0))
        return `“${label}” must be a ${question.whole ? 'whole ' : ''}number from ${least} to ${most}${unit}`;
      return undefined;
    }
    case 'choice':
      return question.choices.some((entry) => entry.value === value)
        ? undefined
        : `“${label}” must be one of ${question.choices.map((entry) => entry.value).join(', ')}`;
    case 'flag':
      return typeof value === 'boolean' ? undefined : `“${label}” is answered by yes or no`;
    case 'text':
      return line(question.longest).validate(value).error
        ? `“${label}” must be one line of at most ${question.longest} characters`
        : undefined;
    case 'board': {
      const [id = '', revision = ''] = typeof value === 'string' ? value.split(' ') : [];
      return boardBy(catalogue, { id, revision })
        ? undefined
        : `“${label}”: there is no board “${String(value)}”`;
    }
    case 'part': {
      if (value === NONE && question.optional) return undefined;
      const found = typeof value === 'string' ? partById(catalogue, value) : undefined;
      return found?.kind === question.of
        ? undefined
        : `“${label}”: there is no ${question.of} “${String(value)}”`;
    }
  }
}

/** The answers a machine file gives. */
export function answersOf(machine: Machine): Answers {
  return Object.fromEntries(
    QUESTIONS.flatMap(({ id, read }) => {
      const value = read(machine);
      return value === undefined ? [] : [[id, value]];
    }),
  );
}
