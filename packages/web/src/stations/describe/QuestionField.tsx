import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type {
  AnswerValue,
  ChoiceQuestion,
  FlagQuestion,
  NumberQuestion,
  TextQuestion,
} from '@jolly/core/describe/question';
import { Button, Radio, TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import { readNumber } from '../../ui/readNumber';
import { KEEP_HINT, useKeptChoice } from '../../ui/useKeptChoice';
import { useTyped } from '../../ui/useTyped';
import css from './Describe.module.css';
import { BoardAnswer } from './BoardAnswer';
import type { Field } from './field';
import { FrameDrawing } from './FrameDrawing';
import { PartAnswer } from './PartAnswer';
import { Picked } from './Picked';
import { useAct } from '../../ui/useAct';

/** One question: its answer, how it is found out, where it came from, and "not known yet". */
export function QuestionField({
  origin,
  catalogue,
  ...field
}: Field & { origin: string | undefined; catalogue: Catalogue }) {
  const { question, given, onAnswer } = field;
  return (
    <div className={css.question} data-open={given == null}>
      <div className={css.answer}>
        <Answer field={field} catalogue={catalogue} />
        {question.how && <p className="soft">{question.how}</p>}
        {origin && given != null && (
          <p className={css.origin}>From {origin}. Change it if you know better.</p>
        )}
      </div>
      {question.kind !== 'text' && (
        <Button
          size="compact-sm"
          variant={given === null ? 'filled' : 'default'}
          aria-pressed={given === null}
          aria-label={`Not known yet: ${question.label}`}
          onClick={() => void onAnswer(null)}
        >
          not known yet
        </Button>
      )}
    </div>
  );
}

function Answer({ field, catalogue }: { field: Field; catalogue: Catalogue }) {
  const { question } = field;
  switch (question.kind) {
    case 'number':
    case 'text':
      return <Typed {...field} question={question} />;
    case 'choice':
      return question.id === 'kinematics' ? (
        <FrameChoice {...field} question={question} />
      ) : (
        <Picked {...field} question={question} choices={question.choices} />
      );
    case 'flag':
      return <YesOrNo {...field} question={question} />;
    case 'board':
      return <BoardAnswer {...field} question={question} catalogue={catalogue} />;
    case 'part':
      return <PartAnswer {...field} question={question} catalogue={catalogue} />;
  }
}

function Typed({ question, given, onAnswer }: Field<NumberQuestion | TextQuestion>) {
  const shown = given == null ? '' : String(given);
  const { text, setText, leave } = useTyped(shown);
  const { refused, act, forget } = useAct();
  useEffect(() => forget(), [shown, forget]);
  const unit = question.kind === 'number' ? question.unit : '';
  const keep = async () => {
    leave();
    const said = text.trim();
    if (said === shown || said === '') return forget();
    const read = question.kind === 'text' ? { value: said } : readFigure(question, said);
    await act(async () => ('refused' in read ? read.refused : onAnswer(read.value)));
  };
  return (
    <TextInput
      label={question.label}
      value={text}
      error={refused}
      inputMode={question.kind === 'number' ? 'decimal' : 'text'}
      placeholder={question.kind === 'number' ? 'a number, with its unit if it is another' : ''}
      maxLength={question.kind === 'text' ? question.longest : 40}
      rightSection={unit ? <span className={css.unit}>{unit}</span> : undefined}
      rightSectionWidth={unit ? 16 + 9 * unit.length : 0}
      onChange={(event) => setText(event.currentTarget.value)}
      onBlur={() => void keep()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') void keep();
        if (event.key === 'Escape') setText(shown);
      }}
    />
  );
}

/** A figure as people type it, in the question's unit; or why it is none. */
function readFigure(question: NumberQuestion, said: string): { value: number } | { refused: string } {
  const [least, most] = question.range;
  const unit = question.unit && ` ${question.unit}`;
  const value = readNumber(said, question.unit);
  if (value === undefined)
    return {
      refused: `“${said}” is no number${question.unit && ` of ${question.unit} or of a unit that turns into it`}`,
    };
  if (question.whole && value % 1 !== 0) return { refused: `${said}: a whole number is wanted` };
  if (value < least || value > most)
    return { refused: `${value}${unit} is outside ${least} to ${most}${unit}` };
  return { value };
}

/** What was just chosen, shown at once: what is kept of it comes back a moment later, and a radio would fall back meanwhile. */
function useChosen({ given, onAnswer }: Field, answerOf: (value: string) => AnswerValue = (value) => value) {
  const kept = given === true ? 'yes' : given === false ? 'no' : typeof given === 'string' ? given : '';
  const [chosen, setChosen] = useState(kept);
  useEffect(() => setChosen(kept), [kept]);
  const choose = async (value: string) => {
    setChosen(value);
    // What was refused was not chosen.
    if ((await onAnswer(answerOf(value))) !== undefined) setChosen(kept);
  };
  return useKeptChoice(chosen, (value) => void choose(value));
}

function YesOrNo(field: Field<FlagQuestion>) {
  const { shown, choose, handlers, passing } = useChosen(field, (value) => value === 'yes');
  return (
    <Radio.Group
      label={field.question.label}
      {...(passing !== undefined && { description: KEEP_HINT })}
      value={shown}
      onChange={choose}
      {...handlers}
    >
      <div className={css.flag}>
        <Radio value="yes" label="yes" />
        <Radio value="no" label="no" />
      </div>
    </Radio.Group>
  );
}

/** Frame kinds are told apart by what moves; each is drawn. */
function FrameChoice(field: Field<ChoiceQuestion>) {
  const { shown, choose, handlers, passing } = useChosen(field);
  const { question } = field;
  return (
    <Radio.Group
      label={question.label}
      {...(passing !== undefined && { description: KEEP_HINT })}
      value={shown}
      onChange={choose}
      {...handlers}
    >
      <div className={css.frames}>
        {question.choices.map(({ value, label }) => (
          <label key={value} className={css.frame} data-chosen={shown === value}>
            <FrameDrawing kind={value} />
            <Radio value={value} label={label} />
          </label>
        ))}
      </div>
    </Radio.Group>
  );
}
