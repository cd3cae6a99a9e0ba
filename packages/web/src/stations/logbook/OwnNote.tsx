import { Button, TextInput } from '@mantine/core';
import { useDraft } from '../../ui/useDraft';
import css from './LogbookStation.module.css';
import { useNote } from './useNote';

/** A line of one's own. */
export function OwnNote({ machineId }: { machineId: string }) {
  const [text, setText] = useDraft(`note:${machineId}`, '');
  const { write, said } = useNote();
  return (
    <form
      className={css.note}
      onSubmit={(event) => {
        event.preventDefault();
        void write(machineId, text.trim()).then((kept) => kept && setText(undefined));
      }}
    >
      <TextInput
        aria-label="A note of your own"
        placeholder="A note of your own: what you did, saw or measured"
        maxLength={500}
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <Button type="submit" variant="default" disabled={text.trim() === ''}>
        Write it down
      </Button>
      {said && <p role="status">{said}</p>}
    </form>
  );
}
