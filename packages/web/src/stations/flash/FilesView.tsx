import { cardRouteOf } from '@jolly/core/board/route';
import { savedAs } from '@jolly/core/flash/savedAs';
import { suggestedName } from '@jolly/session/cardState';
import { Button, FileButton, NativeSelect } from '@mantine/core';
import type { ReactNode } from 'react';
import { api, boardImageUrl } from '../../api/api';
import { Docket } from '../../app/docket/Docket';
import { useStation } from '../../app/frame/StationContext';
import { tape } from '../../app/tape/tape';
import { useJob } from '../../job/JobProvider';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import { RealCard } from './RealCard';
import { type ImageOffer, useImageChoice } from './useImageChoice';
import { useImageSlips } from './useImageSlips';
import { useRefreshBoard } from './useRefreshBoard';
import { wayBackSlips } from './wayBackSlips';

/** Images on their way out of the product and back into it. */
export function FilesView({ choose }: { choose: ReactNode }) {
  const workbench = useWorkbench();
  const { machine, board } = workbench;
  const station = useStation();
  const job = useJob();
  const choice = useImageChoice(false);
  const { offer, offers } = choice;
  const hash = useHash(offer);
  const against = useImageSlips(offer, { taken: false, throughBootloader: false });
  const route = cardRouteOf(board);
  // A later minute gives no other name: it is asked for once a look.
  const name = suggestedName(workbench, station.board, new Date().toISOString().slice(0, 10));
  const stem = offer?.build ? `${machine.id}-${offer.build.buildId}` : (offer?.name.replace(/\.[^.]+$/, '') ?? 'image'); // prettier-ignore
  return (
    <>
      <main className="bench">
        {choose}
        <h2>Image files for {board.name}</h2>
        {offers.length === 0 ? (
          <p>There is no image for this board yet. Build one, or keep one in Survey.</p>
        ) : (
          <NativeSelect
            label="Image"
            description={offer?.told}
            data={offers.map(({ id, label }) => ({ value: id, label }))}
            value={offer?.id}
            onChange={(event) => choice.choose(event.currentTarget.value)}
          />
        )}
        <h3>Save it</h3>
        {against.notForThis ? (
          <p className="refused">This image is not for {board.name} as it is set up: see Evidence.</p>
        ) : (
          hash && (
            <ul aria-label="Save the image">
              {savedAs(board.routes).map(({ format, for: takes, named, ending }) => {
                const saveAs = named ? name : `${stem}.${ending}`;
                return (
                  <li key={`${format} ${named}`}>
                    <a href={boardImageUrl(machine.id, hash, format, saveAs)} download={saveAs}>
                      {saveAs}
                    </a>{' '}
                    {takes}
                    {named && ': the name is one that the board will take'}
                  </li>
                );
              })}
            </ul>
          )
        )}
        {route && !against.notForThis && (
          <>
            <h3>Write a real card</h3>
            <RealCard route={route} hash={against.checking ? undefined : hash} name={name} />
          </>
        )}
        <h3>Take a file back in</h3>
        <TakeIn />
      </main>
      <Docket
        title="Evidence"
        slips={[...wayBackSlips(machine.id, job), ...against.slips]}
        checking={against.checking}
        empty="Every file is read back before it is handed out, and after it is written."
      />
    </>
  );
}

/** The hash an image is stored under; what is kept has one as well. */
function useHash(offer: ImageOffer | undefined): string | undefined {
  const { wayBack } = useJob();
  if (!offer) return undefined;
  if ('hash' in offer.image) return offer.image.hash;
  const { kept } = offer.image;
  return wayBack?.kept.find(({ id }) => id === kept)?.hash;
}

/** A file that the board renamed, or that a tool read out, becomes a way back. */
function TakeIn() {
  const { machine, board } = useWorkbench();
  const { write } = tape;
  const { act, busy, refused } = useAct(useRefreshBoard());
  const keep = (file: File) =>
    act(async () => {
      const asked = { id: machine.id, kind: 'image' as const, name: file.name, source: 'file' as const };
      const { kept } = await api.keep(asked, file);
      write('done', `${kept.name} kept as a way back`);
    });
  return (
    <>
      <p className="soft">
        A file that {board.name} renamed when it took it is what it runs. Kept, it is a way back.
      </p>
      <FileButton onChange={(file) => file && void keep(file)} inputProps={{ 'aria-label': 'File to take in' }}>
        {(props) => (
          <Button variant="default" loading={busy} {...props}>
            Take in a file as a way back
          </Button>
        )}
      </FileButton>
      <Refused why={refused} />
    </>
  );
} // prettier-ignore
