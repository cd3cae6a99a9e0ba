import { Button } from '@mantine/core';
import { useJob } from '../../job/JobProvider';
import { useStation } from '../../app/frame/StationContext';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';

/** The rounds of a job: the base unchanged, then one change and its proofs at a time; or all of it at once. */
export function Rounds() {
  const { stored, tail, save } = useJob();
  const { proofs } = useStation();
  const { refused, act } = useAct();
  if (!stored || !tail) return null;
  const { taken, changes } = stored.job;
  const proven = (id: string) =>
    proofs?.proofs.some((proof) => proof.step === id && proof.outcome === 'proven') ?? false;
  const take = (label: string, ids: string[]) => void act(() => save(label, () => ({ taken: ids })));
  const waiting = tail.rounds.filter((round) => round.change && !taken.includes(round.change));
  const allIds = changes.map((change) => change.id);
  return (
    <section aria-label="Rounds">
      <h3>In rounds</h3>
      <p className="soft">
        One change and its proof at a time: then you know what broke it. Taking several at once saves builds
        and costs that.
      </p>
      <ol className={css.rounds}>
        {tail.rounds.map((round) => {
          const held = !round.change || taken.includes(round.change);
          const done = round.proofs.filter(proven).length;
          const { change } = round;
          return (
            <li key={round.id} data-held={held}>
              <div>
                <strong>{round.title}</strong>
                <small>
                  {round.proofs.length > 0 ? `${done} of ${round.proofs.length} proofs done` : round.why}
                </small>
              </div>
              {change &&
                (held ? (
                  <Button
                    size="xs"
                    variant="default"
                    onClick={() =>
                      take(
                        `Round taken back: ${round.title}`,
                        taken.filter((id) => id !== change),
                      )
                    }
                  >
                    Take it back
                  </Button>
                ) : (
                  round === waiting[0] && (
                    <Button
                      size="xs"
                      onClick={() => take(`Round taken over: ${round.title}`, [...taken, change])}
                    >
                      Take it over
                    </Button>
                  )
                ))}
              {held && round.change && <span className={css.held}>in the machine file</span>}
            </li>
          );
        })}
      </ol>
      {waiting.length > 1 && (
        <Button size="xs" variant="subtle" onClick={() => take('All rounds taken over together', allIds)}>
          Take all {waiting.length} together
        </Button>
      )}
      <Refused why={refused} />
    </section>
  );
}
