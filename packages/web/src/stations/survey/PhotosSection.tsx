import { boardBy } from '@jolly/core/catalogue/catalogue';
import { Button, FileButton, NativeSelect, TextInput } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { api, photoUrl } from '../../api/api';
import type { Pin, StoredPhoto } from '@jolly/contract/endpoints/photos';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { useAddPhotos } from './useAddPhotos';
import { useDropped } from '../../app/drop/dropped';
import { tape } from '../../app/tape/tape';
import { useNow } from '../../ui/useNow';
import { timeOf } from '../../ui/when';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';
import { askAnewOf } from '../../api/held';

/** Photos of the connectors before a plug is pulled, pinned to the headers they show. */
export function PhotosSection() {
  const { machine } = useWorkbench();
  const { photos } = useJob();
  const client = useQueryClient();
  const refresh = () => askAnewOf(client, machine.id, 'photos');
  const [openId, setOpenId] = useState<number>();
  const [removed, setRemoved] = useState<Removed>();
  const { add, busy, refused } = useAddPhotos(setOpenId);
  useDropped('photo', (file) => void add([file]));
  const open = photos.find((photo) => photo.id === openId) ?? photos[0];
  return (
    <>
      <h2>Photograph every connector</h2>
      <p className="soft">
        Before a plug is pulled. Click on a picture, or go over it with arrow keys, to pin a header; Wiring
        shows it beside the lead. Pictures are made smaller, and the place where they were taken is left out.
      </p>
      <div className="row">
        <FileButton
          multiple
          onChange={(files) => void add(files)}
          accept="image/*"
          inputProps={{ 'aria-label': 'Photos' }}
        >
          {(props) => (
            <Button size="xs" loading={busy} {...props}>
              Add photos
            </Button>
          )}
        </FileButton>
      </div>
      <Refused why={refused} />
      {removed && (
        <PutBack removed={removed} onSettled={() => void refresh().then(() => setRemoved(undefined))} />
      )}
      {photos.length === 0 && <p className="soft">No photo yet.</p>}
      {photos.length > 1 && (
        <ul className={css.thumbs} aria-label="Photos">
          {photos.map((photo) => (
            <li key={photo.id}>
              <button aria-pressed={photo.id === open?.id} onClick={() => setOpenId(photo.id)}>
                <img src={photoUrl(machine.id, photo.id)} alt={photo.title} />
              </button>
            </li>
          ))}
        </ul>
      )}
      {open && (
        <PhotoPins
          key={open.id}
          photo={open}
          onSaved={() => void refresh()}
          onRemoved={(gone) => {
            setRemoved(gone);
            void refresh();
          }}
        />
      )}
    </>
  );
}

interface Removed {
  photo: StoredPhoto;
  until: string;
}

/** A photo that was removed: to be put back for a while, or forgotten at once. */
function PutBack({ removed, onSettled }: { removed: Removed; onSettled: () => void }) {
  const { machine } = useWorkbench();
  const { write } = tape;
  const { refused, act } = useAct();
  const now = useNow();
  const { photo, until } = removed;
  if (now > Date.parse(until)) return null;
  const settle = (label: string, what: () => Promise<unknown>) => () =>
    void act(async () => {
      await what();
      write('done', `${label}: ${photo.title}`);
      onSettled();
    });
  return (
    <div className="row" role="status">
      <span>
        “{photo.title}” is removed. It can be put back until {timeOf(until)}; then its bytes are deleted.
      </span>
      <Button
        size="xs"
        variant="default"
        onClick={settle('Photo put back', () =>
          api.putPhotoBack({ id: machine.id, number: String(photo.id) }),
        )}
      >
        Put it back
      </Button>
      <Button
        size="xs"
        variant="subtle"
        color="vermilion"
        onClick={settle('Photo forgotten', () =>
          api.forgetPhoto({ id: machine.id, number: String(photo.id) }),
        )}
      >
        Forget it now
      </Button>
      <Refused why={refused} />
    </div>
  );
}

function PhotoPins({
  photo,
  onSaved,
  onRemoved,
}: {
  photo: StoredPhoto;
  onSaved: () => void;
  onRemoved: (removed: Removed) => void;
}) {
  const { machine, facts, deeds } = useWorkbench();
  const board = boardBy(facts.catalogue, photo.board);
  const [at, setAt] = useState<{ x: number; y: number }>();
  const { write } = tape;
  const { refused, act } = useAct();
  const doing: typeof act = (deed) => deeds.during(act(deed));
  const save = (pins: Pin[]) =>
    void doing(async () => {
      await api.savePhoto({ id: machine.id, number: String(photo.id) }, { title: photo.title, pins });
      const pinned = { before: photo.pins, after: pins };
      deeds.did({ kind: 'photo', label: `Pins of ${photo.title}`, photo: photo.id, was: { pinned } });
      setAt(undefined);
      onSaved();
    });
  const remove = () =>
    void doing(async () => {
      onRemoved(await api.removePhoto({ id: machine.id, number: String(photo.id) }));
      const label = `Photo removed: ${photo.title}`;
      deeds.did({ kind: 'photo', label, photo: photo.id, was: 'removed' });
      write('done', label);
    });
  return (
    <div>
      <div
        className={css.picture}
        role="group"
        tabIndex={0}
        aria-label={`Place of the next pin: ${at ? `${asShare(at.x)} from the left, ${asShare(at.y)} from the top` : 'not chosen'}. Arrow keys move it, with shift further`}
        onKeyDown={(event) => {
          const way = ARROWS[event.key];
          if (!way) return;
          event.preventDefault();
          const by = event.shiftKey ? 0.1 : 0.02;
          const from = at ?? { x: 0.5, y: 0.5 };
          setAt({ x: within(from.x + way.x * by), y: within(from.y + way.y * by) });
        }}
      >
        <img
          src={photoUrl(machine.id, photo.id)}
          alt={`${photo.title}, ${photo.pins.length} ${photo.pins.length === 1 ? 'pin' : 'pins'}`}
          width={photo.width}
          height={photo.height}
          onClick={(event) => {
            const box = event.currentTarget.getBoundingClientRect();
            setAt({ x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height });
          }}
        />
        {[...photo.pins, ...(at ? [{ ...at, label: 'new' }] : [])].map((pin, index) => (
          <span key={index} className={css.pin} style={{ left: `${pin.x * 100}%`, top: `${pin.y * 100}%` }}>
            {pin.label}
          </span>
        ))}
      </div>
      <PinForm
        headers={board?.headers.map((entry) => entry.id) ?? []}
        at={at}
        onPin={(pin) => save([...photo.pins, pin])}
      >
        <Button
          size="xs"
          variant="subtle"
          disabled={photo.pins.length === 0}
          onClick={() => save(photo.pins.slice(0, -1))}
        >
          Take the last pin out
        </Button>
        <Button size="xs" variant="subtle" color="vermilion" onClick={remove}>
          Remove the photo
        </Button>
      </PinForm>
      <Refused why={refused} />
    </div>
  );
}

const ARROWS: Readonly<Record<string, { x: number; y: number }>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};
const within = (share: number) => Math.round(Math.min(1, Math.max(0, share)) * 1000) / 1000;
const asShare = (share: number) => `${Math.round(share * 100)} %`;

/** What a pin says, and at which header; it goes where the picture was clicked, else into the middle. */
function PinForm({
  headers,
  at,
  onPin,
  children,
}: {
  headers: string[];
  at: { x: number; y: number } | undefined;
  onPin: (pin: Pin) => void;
  children: ReactNode;
}) {
  const [header, setHeader] = useState('');
  const [label, setLabel] = useState('');
  const pin = () => {
    onPin({ ...(at ?? { x: 0.5, y: 0.5 }), label: label || header, ...(header && { header }) });
    setLabel('');
  };
  return (
    <div className="row">
      <NativeSelect
        size="xs"
        label="Header"
        data={['', ...headers]}
        value={header}
        onChange={(event) => setHeader(event.currentTarget.value)}
      />
      <TextInput
        size="xs"
        label="Label"
        placeholder={header || 'what is there'}
        value={label}
        maxLength={80}
        onChange={(event) => setLabel(event.currentTarget.value)}
      />
      <Button size="xs" disabled={!label && !header} onClick={pin}>
        {at ? 'Pin it there' : 'Pin it in the middle'}
      </Button>
      {children}
    </div>
  );
}
