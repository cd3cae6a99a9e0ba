import { LARGEST_PHOTO } from '@jolly/contract/endpoints/photos';
import { type BoardPhoto, cornersOf } from '@jolly/core/board/begunBoard';
import { type Point, sizeByDistance } from '@jolly/core/board/photoFit';
import { whyOf } from '@jolly/core/text/whyOf';
import type { FormField } from '@jolly/core/tree/formField';
import { Button, FileButton } from '@mantine/core';
import { useState } from 'react';
import { api } from '../../api/api';
import { TypedField } from '../../ui/form/TypedField';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { shrinkPhoto } from '../survey/shrinkPhoto';
import type { Drawing } from './useBegunBoard';

const side = (path: 'x' | 'y', label: string): FormField => ({ path: ['outline_mm', path], is: 'number', unit: 'mm', label }); // prettier-ignore
const APART: FormField = { path: ['mm'], is: 'number', unit: 'mm', label: 'They lie apart' };
const INSET: BoardPhoto['corners'] = [{ x: 0.1, y: 0.9 }, { x: 0.9, y: 0.9 }, { x: 0.9, y: 0.1 }, { x: 0.1, y: 0.1 }]; // prettier-ignore

/** A photo to draw over: where the board's corners lie on it, and how large it is. */
export function PhotoForm({ id, drawing }: { id: string; drawing: Drawing }) {
  const { busy, refused, act } = useAct();
  const [said, setSaid] = useState<string>();
  const { board, photo } = drawing.begun;
  const setPhoto = (part: Partial<BoardPhoto>) =>
    drawing.change((now) => (now.photo ? { ...now, photo: { ...now.photo, ...part } } : now));
  const take = (file: File | null) =>
    act(async () => {
      if (!file) return;
      const small = await shrinkPhoto(file);
      await drawing.settled();
      await api.keepBoardPhoto({ id }, small.picture);
      await drawing.readAnew();
      setSaid(small.was && `The picture of ${small.was} was made smaller for drawing over it; your file is as it was.`); // prettier-ignore
    });
  return (
    <>
      <p className="soft">
        Lay the board flat, unplugged, and take it from straight above, the whole board in the picture. What else
        is in the file (camera, place) is left out. JPEG or PNG, up to {LARGEST_PHOTO / 2 ** 20} MB once it is made
        smaller.
      </p>
      <FileButton onChange={(file) => void take(file)} accept="image/*" inputProps={{ 'aria-label': 'Photo of the board' }}>
        {(props) => (
          <Button size="xs" variant={photo ? 'default' : 'filled'} loading={busy} {...props}>
            {photo ? 'Another photo' : 'Load a photo'}
          </Button>
        )}
      </FileButton>
      <Refused why={refused} />
      {said && <p role="status">{said}</p>}
      {photo && (
        <>
          <h3>Its four corners</h3>
          {photo.corners.length < 4 ? (
            <>
              <p>
                Point at the board’s {CORNERS[photo.corners.length]} corner on the photo
                {photo.corners.length > 0 && ` (${photo.corners.length} of 4 are there)`}.
              </p>
              <Button size="xs" variant="default" onClick={() => setPhoto({ corners: INSET })}>
                Put four marks on it, to be moved
              </Button>
            </>
          ) : (
            <>
              <p className="soft">Drag a mark, or choose it and move it with the arrow keys.</p>
              <Button size="xs" variant="default" onClick={() => setPhoto({ corners: [] })}>
                Point at them anew
              </Button>
            </>
          )}
          <h3>Its size</h3>
          <TypedField field={side('x', 'Width')} value={board.outline_mm?.x} onSet={(value) => drawing.set(['outline_mm', 'x'], value)} />
          <TypedField field={side('y', 'Depth')} value={board.outline_mm?.y} onSet={(value) => drawing.set(['outline_mm', 'y'], value)} />
          <Distance photo={photo} setPhoto={setPhoto} onSize={(size) => drawing.set(['outline_mm'], size)} />
        </>
      )}
    </>
  ); // prettier-ignore
}

const CORNERS = ['front left', 'front right', 'back right', 'back left'] as const;

/** No rule for the whole board: two points whose distance is known tell its size. */
function Distance({
  photo,
  setPhoto,
  onSize,
}: {
  photo: BoardPhoto;
  setPhoto: (part: Partial<BoardPhoto>) => void;
  onSize: (size: Point) => void;
}) {
  const [refused, setRefused] = useState<string>();
  const corners = cornersOf(photo);
  const { distance } = photo;
  if (!corners) return null;
  if (!distance)
    return (
      <Button
        size="xs"
        variant="default"
        onClick={() => setPhoto({ distance: { points: [{ x: 0.3, y: 0.5 }, { x: 0.7, y: 0.5 }] } })}
      >
        Not measured? Two points of known distance
      </Button>
    ); // prettier-ignore
  const [from, to] = distance.points;
  const work = () => {
    try {
      if (!from || !to || distance.mm === undefined) throw new Error('Say how far apart the two points are.');
      onSize(sizeByDistance(corners, [from, to], distance.mm, photo.width / photo.height));
      setRefused(undefined);
    } catch (error) {
      setRefused(whyOf(error));
    }
  };
  return (
    <>
      <p className="soft">
        Put the two round marks on things whose distance you know: two holes, the ends of a plug of known pitch, a
        rule laid beside it. Right only where the photo was taken straight from above.
      </p>
      <TypedField
        field={APART}
        value={distance.mm}
        onSet={(mm) => setPhoto({ distance: { points: distance.points, ...(typeof mm === 'number' && { mm }) } })}
      />
      <div className="row">
        <Button size="xs" variant="default" onClick={work}>
          Work the size out
        </Button>
      </div>
      <Refused why={refused} />
    </>
  ); // prettier-ignore
}
