import { headersOf } from '@jolly/core/circuit/leadOrder';
import { photoUrl } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import css from './Wiring.module.css';

/** Photos on which the header a part was plugged to is pinned. */
export function PhotosOf({ part }: { part: string }) {
  const { photos, before } = useJob();
  const landing = before.harness[part];
  const headers = new Set(landing && 'leads' in landing ? headersOf(landing) : []);
  const shown = photos.filter((photo) => photo.pins.some((pin) => pin.header && headers.has(pin.header)));
  if (shown.length === 0) return null;
  return (
    <div className={css.photos}>
      {shown.map((photo) => (
        <a key={photo.id} href={photoUrl(before.id, photo.id)} target="_blank" rel="noreferrer">
          <img src={photoUrl(before.id, photo.id)} alt={`${photo.title}: ${[...headers].join(', ')}`} />
        </a>
      ))}
    </div>
  );
}
