import { Button, NativeSelect } from '@mantine/core';
import type { Landing } from '@jolly/core/machine/landing';
import { landingInWords } from '@jolly/core/ripple/leadRules';
import { type Addition, WISHES } from '@jolly/core/ripple/additions';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import type { Wiring } from './useWiring';
import { NoPlaceWords } from './NoPlaceWords';
import { lowerFirst } from '../../ui/letterCase';
import css from './Wiring.module.css';

/** "I want another …": every place it could go, its price, what else it brings, and one decision. */
export function Additions({ wiring }: { wiring: Wiring }) {
  const { core, facts } = useWorkbench();
  const job = useJob();
  const [wishId, setWish] = useState(WISHES[0].id);
  const wish = WISHES.find(({ id }) => id === wishId) ?? WISHES[0];
  const types = facts.catalogue.parts.filter((part) => part.kind === wish.kind);
  const [typed, setTyped] = useState<string>();
  const part = (types.find(({ id }) => id === typed) ?? types[0])?.id ?? '';
  const [said, setSaid] = useState<{ text: string; bad: boolean }>();
  const found = useQuery<Addition | null>({
    queryKey: ['addition', wiring.after.id, wiring.key, wishId, part],
    queryFn: async () => (await core.addition(wiring.after, wishId, part)) ?? null,
    staleTime: Infinity,
  });
  const addition = found.data;
  const decide = async (landing: Landing | undefined) => {
    const change = {
      ...wish.change(addition?.role ?? wish.roles[0], part, landing),
      because: `wanted: ${lowerFirst(wish.title)}`,
    };
    const refused = job.stored
      ? await job.save(`${wish.title} is planned`, {
          changes: [...job.stored.job.changes, change],
          taken: [...job.stored.job.taken, change.id],
        })
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
          value={part}
          data={types.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
      </div>
      {said && (
        <p role={said.bad ? 'alert' : 'status'} className={said.bad ? 'refused' : 'proven'}>
          {said.text}
        </p>
      )}
      {addition?.impossible && <p className="soft">{addition.impossible}</p>}
      {addition && !addition.impossible && (
        <div className={css.twoColumns}>
          <section aria-label="Where it can go">
            <h3>Where it can go</h3>
            <ul className={css.places} aria-label="Places">
              {addition.places.slice(0, 10).map((place, index) => (
                <li key={JSON.stringify(place.landing)} data-taken={place.clashes.length > 0}>
                  <button
                    disabled={place.clashes.length > 0}
                    aria-label={`Add it at ${landingInWords(place.landing)}, price ${place.price}`}
                    onClick={() => void decide(place.landing)}
                  >
                    <b className="figures">{place.price}</b>
                    <span>
                      {landingInWords(place.landing)}
                      {index === 0 && place.clashes.length === 0 && <em> best</em>}
                      <small>
                        {place.clashes.length > 0
                          ? place.clashes.map(({ what }) => what).join('; ')
                          : place.lines.map(({ points, what }) => `${points} ${what}`).join('; ') ||
                            'made for it'}
                      </small>
                    </span>
                  </button>
                </li>
              ))}
            </ul>
            {addition.places.length === 0 && <NoPlaceWords nowhere={addition.nowhere} />}
            {addition.withMoves && (
              <p>
                With other leads moved it costs {addition.withMoves.price}: at{' '}
                {landingInWords(addition.withMoves.landing)}, and{' '}
                {addition.withMoves.moves
                  .map((move) => `${move.part} to ${landingInWords(move.to)}`)
                  .join(', ')}
                .
              </p>
            )}
            {addition.places.length > 10 && (
              <p className="soft">{addition.places.length - 10} dearer or taken ones are not shown.</p>
            )}
          </section>
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
              {job.stored ? 'It joins the open job.' : 'It opens a job of its own.'} Taking the change back
              undoes all of it.
            </p>
          </section>
        </div>
      )}
    </>
  );
}
