import { Radio } from '@mantine/core';
import { FlashStep } from './FlashStep';
import type { useImageChoice } from './useImageChoice';

/** Which image goes onto the board. */
export function ImageChoice({ choice }: { choice: ReturnType<typeof useImageChoice> }) {
  const { offers, offer, choose, known } = choice;
  return (
    <FlashStep title="Choose the image" done={offer !== undefined}>
      {known && offers.length === 0 && (
        <p>There is no image for this board yet. Build one, or keep the one it has in Survey.</p>
      )}
      {offers.length > 0 && (
        <Radio.Group value={offer?.id ?? ''} onChange={choose} aria-label="Image">
          {offers.map(({ id, label, told }) => (
            <Radio key={id} value={id} label={label} description={told} mb={4} />
          ))}
        </Radio.Group>
      )}
    </FlashStep>
  );
}
