import type { Question } from '@jolly/core/describe/question';
import { KeptSelect } from '../../ui/KeptSelect';
import type { Field } from './field';

/** An answer that is picked out of a list. */
export function Picked({
  question,
  given,
  onAnswer,
  choices,
}: Field<Question> & { choices: readonly { value: string; label: string }[] }) {
  return (
    <KeptSelect
      label={question.label}
      value={typeof given === 'string' ? given : ''}
      data={[{ value: '', label: 'choose …' }, ...choices]}
      onKeep={(value) => void (value && onAnswer(value))}
    />
  );
}
