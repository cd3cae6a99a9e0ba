import { Button, CloseButton } from '@mantine/core';
import type { Landing } from '@jolly/core/machine/landing';
import { landingInWords } from '@jolly/core/ripple/leadRules';
import { sameValue } from '@jolly/core/tree/sameValue';
import type { PlacesOf } from '../../workbench/coreWorker';
import { useEffect, useRef, useState } from 'react';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { Colours } from './Colours';
import { EndDrawing } from './EndDrawing';
import type { BenchLead } from './benchLead';
import { PlaceRow } from './PlaceRow';
import { NoPlaceWords } from './NoPlaceWords';
import { PhotosOf } from './PhotosOf';
import type { Wiring } from './useWiring';
import css from './Wiring.module.css';

const SHOWN = 6;

/** One lead: both ends contact by contact, its photo, what to do, and every place it could go with its price. */
export function LeadPanel({
  wiring,
  lead,
  chosen,
  landings,
  takenUp,
  onFocused,
  onLand,
  onClose,
}: {
  wiring: Wiring;
  lead: BenchLead;
  /** Taken up, not only pointed at: then its places are listed. */
  chosen: boolean;
  landings: PlacesOf | undefined;
  /** Its list of places wants the focus. */
  takenUp: boolean;
  onFocused: () => void;
  onLand: (landing: Landing) => void;
  onClose: () => void;
}) {
  const [all, setAll] = useState(false);
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    if (!takenUp || !landings) return;
    list.current?.querySelector<HTMLElement>('button:not(:disabled)')?.focus();
    onFocused();
  }, [takenUp, landings, onFocused]);
  const places = landings?.places ?? [];
  const free = places.filter(({ clashes }) => clashes.length === 0);
  const listed = all ? places : free.slice(0, SHOWN);
  return (
    <section className={css.panel} aria-label={`Lead ${lead.part.id}`}>
      <header>
        <h3>
          {lead.part.id} <small>{lead.name}</small>
        </h3>
        {chosen && wiring.unseen.includes(lead.part.id) && <SitsThere wiring={wiring} part={lead.part.id} />}
        {chosen && <CloseButton aria-label="Lay the lead down" onClick={onClose} />}
      </header>
      <div className={css.panelBody}>
        <Ends wiring={wiring} lead={lead} />
        {chosen && (
          <div>
            <h4>
              {landings === undefined
                ? 'Looking for places …'
                : `${free.length} ${free.length === 1 ? 'place' : 'places'} it can go`}
            </h4>
            <ul ref={list} className={css.places} aria-label={`Places for ${lead.part.id}`}>
              {listed.map((place) => {
                const here = sameValue(place.landing, lead.to);
                return (
                  <PlaceRow
                    key={JSON.stringify(place.landing)}
                    place={place}
                    here={here}
                    mark={here && 'here now'}
                    onLand={() => onLand(place.landing)}
                    onKeyDown={walk}
                  />
                );
              })}
            </ul>
            <NoPlaceWords nowhere={landings?.nowhere} />
            {places.length > listed.length && (
              <Button size="compact-xs" variant="subtle" onClick={() => setAll(true)}>
                All {places.length}, with those in the way
              </Button>
            )}
          </div>
        )}
      </div>
    </section>
  );
}

/** Its place was proposed; whoever has followed its leads says so here. */
function SitsThere({ wiring, part }: { wiring: Wiring; part: string }) {
  const { busy, refused, act } = useAct();
  const seen = () =>
    act(async () => {
      const why = await wiring.seen(part);
      if (why) throw new Error(why);
    });
  return (
    <>
      <span className="soft">Its place was proposed; nobody has looked.</span>
      <Button size="compact-sm" variant="default" disabled={busy} onClick={() => void seen()}>
        I have followed it: it sits there
      </Button>
      <Refused why={refused} />
    </>
  );
}

/** Both ends contact by contact, what to do with them, and the photo. */
function Ends({ wiring, lead }: { wiring: Wiring; lead: BenchLead }) {
  const step = wiring.view.plan.steps.find(
    ({ kind, subject }) => kind === 'lead' && subject === lead.part.id,
  );
  return (
    <div>
      {step ? (
        <div className={css.ends}>
          <EndDrawing end={step.from} title={`On the ${wiring.boards.before.name}`} />
          <EndDrawing end={step.to} title={`On the ${wiring.boards.after.name}`} />
        </div>
      ) : (
        <p className="figures">{lead.to ? landingInWords(lead.to) : 'not connected'}</p>
      )}
      {step?.tasks.map(({ what }) => (
        <p key={what} className={css.task}>
          {what}
        </p>
      ))}
      {step?.cautions.map((caution) => (
        <p key={caution} className={css.caution}>
          {caution}
        </p>
      ))}
      <PhotosOf part={lead.part.id} />
      <Colours part={lead.part.id} />
    </div>
  );
}

/** Arrow keys in the list; escape goes back to the lead. */
function walk(event: React.KeyboardEvent<HTMLButtonElement>): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (event.key === 'Escape') {
    document.querySelector<SVGGElement>('[data-part][data-on="true"]')?.focus();
    return;
  }
  if (step === undefined) return;
  event.preventDefault();
  const all = [...document.querySelectorAll<HTMLElement>('[data-landing]:not(:disabled)')];
  all[(all.indexOf(event.currentTarget) + step + all.length) % all.length]?.focus();
}
