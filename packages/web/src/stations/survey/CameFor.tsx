import type { ChangeKind } from '@jolly/core/ripple/change';
import { Button } from '@mantine/core';
import css from './SurveyStation.module.css';

const WISHES: readonly { kind: ChangeKind; title: string }[] = [
  { kind: 'new-board', title: 'Another board' },
  { kind: 'drivers', title: 'Quiet drivers' },
  { kind: 'probe-added', title: 'A bed probe' },
  { kind: 'frame-size', title: 'A bigger plate' },
];

/** Asked of a machine that has just come onto the shelf; what is chosen begins the job. */
export function CameFor({
  name,
  hasProbe,
  onKind,
  onNothing,
}: {
  name: string;
  hasProbe: boolean;
  onKind: (kind: ChangeKind) => void;
  onNothing: () => void;
}) {
  return (
    <section className={css.advice} aria-label="What you came for">
      <strong>{name} is on the shelf. What did you come for?</strong>
      <div className="row">
        {WISHES.filter(({ kind }) => kind !== 'probe-added' || !hasProbe).map(({ kind, title }) => (
          <Button key={kind} size="xs" variant="default" onClick={() => onKind(kind)}>
            {title}
          </Button>
        ))}
        <Button size="xs" variant="default" onClick={onNothing}>
          Only the record
        </Button>
      </div>
      <p className="soft">Something else is chosen below. Where its leads sit is told at Wiring.</p>
    </section>
  );
}
