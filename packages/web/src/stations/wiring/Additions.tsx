import { Button, NativeSelect } from '@mantine/core';
import type { Landing } from '@jolly/core/machine/landing';
import { landingInWords } from '@jolly/core/ripple/leadRules';
import { type Addition, type Wish, WISHES } from '@jolly/core/ripple/additions';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { asShown } from '../../ui/asShown';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import type { Wiring } from './useWiring';
import { PlaceRow } from './PlaceRow';
import { NoPlaceWords } from './NoPlaceWords';
import { lowerFirst } from '../../ui/letterCase';
import css from './Wiring.module.css';

/** "I want another …": every place it could go, its price, what else it brings, and one decision. */
export function Additions({ wiring }: { wiring: Wiring }) {
  const { core, facts } = useWorkbench();
  const [wishId, setWish] = useState(WISHES[0].id);
  const wish = WISHES.find(({ id }) => id === wishId) ?? WISHES[0];
  const types = facts.catalogue.parts.filter((part) => part.kind === wish.kind);
  const [typed, setTyped] = useState<string>();
  // Of several none is taken for the one that is wanted: what is planned here goes into the job.
  const part = (types.find(({ id }) => id === typed) ?? (types.length === 1 ? types[0] : undefined))?.id;
  const found = useQuery<Addition | null>({
    queryKey: ['addition', wiring.after.id, wiring.key, wishId, part],
    queryFn: async () => (await core.addition(wiring.after, wishId, part ?? '')) ?? null,
    enabled: part !== undefined,
    meta: { what: 'where it could go' },
    staleTime: Infinity,
  });
  const addition = found.data;
  const { said, setSaid, decide } = useDecision(wish, addition?.role ?? wish.roles[0], part ?? '');
  return (
    <>
      <div className="row">
        <NativeSelect
          size="xs"
          label="I want"
          value={wishId}
          data={WISHES.map(({ id, title }) => ({ value: id, label: lowerFirst(title) }))}
          onChange={(event) => {
            setWish(event.currentTarget.value);
            setSaid(undefined);
          }}
        />
        <NativeSelect
          size="xs"
          label="Which"
          value={part ?? ''}
          data={asShown(
            types.map(({ id, name }) => ({ value: id, label: name })),
            part ?? '',
            'choose …',
          )}
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
      </div>
      {said && (
        <p role={said.bad ? 'alert' : 'status'} className={said.bad ? 'refused' : 'proven'}>
          {said.text}
        </p>
      )}
      {part === undefined && <p className="soft">Choose which one: then you see where it can go.</p>}
      {part !== undefined && found.isPending && (
        <p className="soft" role="status">
          Looking where it can go.
        </p>
      )}
      {addition?.impossible && <p className="soft">{addition.impossible}</p>}
      {addition && !addition.impossible && (
        <div className={css.twoColumns}>
          <WhereItCanGo addition={addition} decide={decide} />
          <WhatElse addition={addition} decide={decide} />
        </div>
      )}
    </>
  );
}

/** Plans the wished part: in the open job, or in one of its own. */
function useDecision(wish: Wish, role: string, part: string) {
  const job = useJob();
  const [said, setSaid] = useState<{ text: string; bad: boolean }>();
  const decide = async (landing: Landing | undefined) => {
    const change = {
      ...wish.change(role, part, landing),
      because: `wanted: ${lowerFirst(wish.title)}`,
    };
    const refused = job.stored
      ? await job.save(`${wish.title} is planned`, ({ changes, taken }) => ({
          changes: [...changes, change],
          taken: [...taken, change.id],
        }))
      : await job.start({
          title: wish.title,
          reason: 'feature',
          changes: [change],
          taken: [change.id],
        });
    setSaid(
      refused
        ? { text: refused, bad: true }
        : {
            text: `${wish.title} is part of the job now. What follows stands on the sheet and in Survey.`,
            bad: false,
          },
    );
  };
  return { said, setSaid, decide };
}

interface Deciding {
  addition: Addition;
  decide: (landing: Landing | undefined) => Promise<void>;
}

const MOST_SHOWN = 10;

function WhereItCanGo({ addition, decide }: Deciding) {
  return (
    <section aria-label="Where it can go">
      <h3>Where it can go</h3>
      <ul className={css.places} aria-label="Places">
        {addition.places.slice(0, MOST_SHOWN).map((place, index) => (
          <PlaceRow
            key={JSON.stringify(place.landing)}
            place={place}
            priced
            mark={index === 0 && place.clashes.length === 0 && 'best'}
            name={`Add it at ${landingInWords(place.landing)}, price ${place.price}`}
            onLand={() => void decide(place.landing)}
          />
        ))}
      </ul>
      {addition.places.length === 0 && <NoPlaceWords nowhere={addition.nowhere} />}
      {addition.withMoves && (
        <p>
          With other leads moved it costs {addition.withMoves.price}: at{' '}
          {landingInWords(addition.withMoves.landing)}, and{' '}
          {addition.withMoves.moves.map((move) => `${move.part} to ${landingInWords(move.to)}`).join(', ')}.
        </p>
      )}
      {addition.places.length > MOST_SHOWN && (
        <p className="soft">{addition.places.length - MOST_SHOWN} dearer or taken ones are not shown.</p>
      )}
    </section>
  );
}

function WhatElse({ addition, decide }: Deciding) {
  const job = useJob();
  return (
    <section aria-label="What else must change">
      <h3>What else must change</h3>
      <ul className={css.cost}>
        {addition.also.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <Button
        disabled={!addition.places[0] || addition.places[0].clashes.length > 0}
        onClick={() => void decide(addition.places[0]?.landing)}
      >
        Add it at the best place
      </Button>
      <p className="soft">
        {job.stored ? 'It joins the open job.' : 'It opens a job of its own.'} Taking the change back undoes
        all of it.
      </p>
    </section>
  );
}
