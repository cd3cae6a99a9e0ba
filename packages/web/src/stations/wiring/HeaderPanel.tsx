import type { Landing } from '@jolly/core/machine/landing';
import { headersOf } from '@jolly/core/circuit/leadOrder';
import { contactWords } from '@jolly/core/board/contactWords';
import { Button, CloseButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { photoUrl } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import type { Wiring } from './useWiring';
import css from './Wiring.module.css';

/** One header, pointed at: its contacts, its photo, what sits in it, and what else could. */
export function HeaderPanel({
  wiring,
  header: id,
  onLand,
  onChoose,
  onClose,
}: {
  wiring: Wiring;
  header: string;
  onLand: (part: string, landing: Landing) => void;
  onChoose: (part: string) => void;
  onClose: () => void;
}) {
  const { core } = useWorkbench();
  const { photos, before } = useJob();
  const header = wiring.boards.after.headers.find((one) => one.id === id);
  const fits = useQuery({
    queryKey: ['fits', wiring.after.id, wiring.key, id],
    queryFn: async () => core.fitsInto(wiring.before, wiring.after, id),
    meta: { what: 'what fits this header' },
    staleTime: Infinity,
  });
  if (!header) return null;
  const there = Object.entries(wiring.after.harness).flatMap(([part, landing]) =>
    'leads' in landing && headersOf(landing).includes(id) ? [part] : [],
  );
  const shown = photos.filter(({ pins }) => pins.some((pin) => pin.header === id));
  return (
    <section className={css.panel} aria-label={`Header ${id}`}>
      <header>
        <h3>
          {id} <small>{header.for ?? 'not said what for'}, {header.family}</small>
        </h3>
        <CloseButton aria-label="Leave the header" onClick={onClose} />
      </header>
      <p className="figures">{contactWords(header.contacts)}</p>
      {there.length > 0 ? (
        <p>
          In it:{' '}
          {there.map((part) => (
            <Button key={part} size="compact-sm" variant="default" onClick={() => onChoose(part)}>
              {part}
            </Button>
          ))}
        </p>
      ) : (
        <p>Nothing is said to sit in it.</p>
      )}
      <h4>What sits in it?</h4>
      {!fits.data && <p className="soft">Looking what fits …</p>}
      {fits.data?.length === 0 && <p className="soft">Nothing else of this machine fits it as it is wired.</p>}
      <p className="row">
        {fits.data?.map(({ part, landing, placed }) => (
          <Button key={part} size="compact-sm" variant="default" onClick={() => onLand(part, landing)}>
            {placed ? `${part}, said to be elsewhere` : part}
          </Button>
        ))}
      </p>
      {shown.length > 0 && (
        <div className={css.photos}>
          {shown.map((photo) => (
            <a key={photo.id} href={photoUrl(before.id, photo.id)} target="_blank" rel="noreferrer">
              <img src={photoUrl(before.id, photo.id)} alt={`${photo.title}: ${id}`} />
            </a>
          ))}
        </div>
      )}
    </section>
  ); // prettier-ignore
}
