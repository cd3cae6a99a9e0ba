import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { BoardQuestion } from '@jolly/core/describe/question';
import { readBoardFile } from '@jolly/core/formats/boardFile';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { OwnBoard } from '../survey/OwnBoard';
import { Picked } from './Picked';
import type { Field } from './QuestionField';

/** A board of the catalogue or one's own; one that is nowhere is described here. */
export function BoardAnswer({ catalogue, ...field }: Field<BoardQuestion> & { catalogue: Catalogue }) {
  const [describing, setDescribing] = useState(false);
  const [usual] = catalogue.chips;
  if (describing && usual)
    return (
      <OwnBoard
        chips={catalogue.chips}
        usual={usual}
        read={(text) => Promise.resolve(readBoardFile(text, catalogue))}
        onClose={() => setDescribing(false)}
        onAdded={({ id, revision }) => void field.onAnswer(`${id} ${revision}`)}
      />
    );
  return (
    <>
      <Picked
        {...field}
        choices={catalogue.boards.map(({ id, revision, name }) => ({
          value: `${id} ${revision}`,
          label: `${name}, revision ${revision}`,
        }))}
      />
      <Button size="compact-sm" variant="subtle" onClick={() => setDescribing(true)}>
        It is another: describe it
      </Button>
    </>
  );
}
