import { Button, FileButton } from '@mantine/core';

/** Opens a text file from the person's own disk. */
export function OpenTextFile({
  words,
  label,
  onText,
}: {
  words: string;
  /** What kind of file is wanted. */
  label: string;
  onText: (text: string) => void;
}) {
  return (
    <FileButton
      onChange={(file) => void file?.text().then(onText)}
      accept=".yaml,.yml"
      inputProps={{ 'aria-label': label }}
    >
      {(props) => (
        <Button size="xs" variant="default" {...props}>
          {words}
        </Button>
      )}
    </FileButton>
  );
}
