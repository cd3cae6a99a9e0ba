import { boardBy, type Catalogue } from '@jolly/core/catalogue/catalogue';
import { writeBoardFile, writeBoardRevision } from '@jolly/core/formats/boardFile';
import { Button, Textarea } from '@mantine/core';
import { useState } from 'react';
import { download } from '../../ui/download';
import { OpenTextFile } from '../../ui/OpenTextFile';
import { boardWork } from './boardWork';
import type { Drawing } from './useBegunBoard';

/** The board as its file: to be looked at, saved, read from a file, or typed and taken over as a whole. */
export function BoardFile({ drawing, catalogue }: { drawing: Drawing; catalogue: Catalogue }) {
  const { board, like } = drawing.begun;
  const sister = like === undefined || board.id === undefined ? undefined : boardBy(catalogue, { id: board.id, revision: like }); // prettier-ignore
  const made = sister ? writeBoardRevision(board, sister) : writeBoardFile(board);
  const [typed, setTyped] = useState<string>();
  const [problems, setProblems] = useState<string[]>([]);
  const text = typed ?? made;
  const take = async () => {
    const read = await boardWork().read(text, { chips: catalogue.chips, boards: catalogue.boards });
    if ('problems' in read)
      return setProblems(read.problems.map(({ line, message }) => `line ${line}: ${message}`));
    setProblems([]);
    setTyped(undefined);
    drawing.change((now) => ({ ...now, board: read.value }));
  };
  return (
    <>
      <h2>The board file</h2>
      <div className="row">
        <OpenTextFile
          words="Open a board file"
          label="Board file"
          onText={(text) => setTyped(text.slice(0, 500_000))}
        />
        <Button
          size="xs"
          variant="default"
          onClick={() => download(`${board.id ?? 'board'}.yaml`, 'text/yaml', text)}
        >
          Save it as a file
        </Button>
      </div>
      {sister && (
        <p className="soft">
          Written by what differs from revision {sister.revision}; the rest is the same as there.
        </p>
      )}
      <Textarea
        label="The file as it is now"
        autosize
        minRows={10}
        maxRows={24}
        styles={{ input: { fontFamily: 'var(--figures)', fontSize: 13 } }}
        value={text}
        onChange={(event) => setTyped(event.currentTarget.value)}
      />
      {typed !== undefined && (
        <div className="row">
          <Button size="xs" onClick={() => void take()}>
            Take it over into the form
          </Button>
          <Button
            size="xs"
            variant="subtle"
            onClick={() => {
              setTyped(undefined);
              setProblems([]);
            }}
          >
            Leave it
          </Button>
        </div>
      )}
      {problems.length > 0 && (
        <ul aria-label="What is wrong with the file">
          {problems.slice(0, 8).map((problem) => (
            <li key={problem}>{problem}</li>
          ))}
        </ul>
      )}
    </>
  );
}
