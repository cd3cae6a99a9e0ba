import { Button, FileButton, TextInput } from '@mantine/core';
import { Refused } from '../../ui/Refused';
import { useDraft } from '../../ui/useDraft';
import css from './LogbookStation.module.css';
import { useAddPhotos } from '../survey/useAddPhotos';
import { useNote } from './useNote';

/** A line of one's own, or a photo. */
export function OwnNote({ machineId }: { machineId: string }) {
  const [text, setText] = useDraft(`note:${machineId}`, '');
  const { write, said } = useNote();
  const photos = useAddPhotos();
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
      <FileButton
        multiple
        accept="image/*"
        inputProps={{ 'aria-label': 'Photos for the time line' }}
        onChange={(files) => void photos.add(files)}
      >
        {(props) => (
          <Button variant="default" loading={photos.busy} {...props}>
            Add a photo
          </Button>
        )}
      </FileButton>
      {said && <p role="status">{said}</p>}
      <Refused why={photos.refused} />
    </form>
  );
}
