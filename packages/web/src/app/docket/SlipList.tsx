import { Button } from '@mantine/core';
import { type RefObject, useEffect, useRef } from 'react';
import { Link } from 'react-router';
import css from './Docket.module.css';
import { SetAside } from './SetAside';
import { SEVERITY_WORD, type Slip, type SlipAction, type SlipCause } from './slip';

interface SlipListProps {
  list: RefObject<HTMLOListElement | null>;
  slips: Slip[];
  chosen: number;
  choose: (index: number) => void;
  settle: (action: SlipAction) => void;
}

/** Of so many slips of one check only the first and the chosen one are laid out; of the others the title stands. */
const MANY = 4;
const sameCheck = (a: Slip, b: Slip | undefined) =>
  a.check !== undefined &&
  a.check === b?.check &&
  a.severity === b.severity &&
  a.finding?.waived === b.finding?.waived;
/** Nothing that stops a machine is folded away. */
function isOneOfMany(slips: readonly Slip[], index: number): boolean {
  const slip = slips[index];
  if (!slip || slip.severity === 'stop' || !sameCheck(slip, slips[index - 1])) return false;
  return slips.filter((other) => sameCheck(slip, other)).length >= MANY;
}

/** The slips of a docket; the chosen one is kept in sight. */
export function SlipList({ list, slips, chosen, choose, settle }: SlipListProps) {
  const first = useRef(true);
  useEffect(() => {
    // Opening a station shows the docket from its top.
    if (first.current) first.current = false;
    else list.current?.children[chosen]?.scrollIntoView({ block: 'nearest' });
  }, [chosen, list]);
  return (
    <ol className={css.slips} ref={list}>
      {slips.map((slip, index) => {
        const oneOfMany = isOneOfMany(slips, index);
        return (
          <li
            key={slip.id}
            className={css.slip}
            data-severity={slip.severity}
            data-waived={slip.finding?.waived !== undefined}
            data-chosen={index === chosen}
            data-one-of-many={oneOfMany}
            tabIndex={-1}
            onClick={() => choose(index)}
          >
            <SlipSheet slip={slip} settle={settle} {...(oneOfMany && { open: index === chosen })} />
          </li>
        );
      })}
    </ol>
  );
}

interface SlipSheetProps {
  slip: Slip;
  settle: (action: SlipAction) => void;
  /** One of many of a check: it is unfolded by being chosen. */
  open?: boolean;
}
function SlipSheet({ slip, settle, open }: SlipSheetProps) {
  const waived = slip.finding?.waived;
  const chosenOpens = open !== undefined;
  return (
    <>
      <p className={css.head}>
        <b>{waived === undefined ? SEVERITY_WORD[slip.severity] : 'Set aside'}</b>
        {slip.check && <span className="figures">{slip.check}</span>}
      </p>
      {slip.settled || chosenOpens ? (
        <details className={css.folded} {...(chosenOpens && { open })}>
          {/* Its own unfolding would undo what choosing it does. */}
          <summary onClick={(event) => chosenOpens && event.preventDefault()}>
            <h3>{slip.what}</h3>
          </summary>
          <SlipBody slip={slip} settle={settle} />
        </details>
      ) : (
        <>
          <h3>{slip.what}</h3>
          <SlipBody slip={slip} settle={settle} />
        </>
      )}
    </>
  );
}

function SlipBody({ slip, settle }: { slip: Slip; settle: (action: SlipAction) => void }) {
  const waived = slip.finding?.waived;
  return (
    <>
      {slip.why && <p>{slip.why}</p>}
      {slip.caution && (
        <p className={css.caution}>
          <b>Caution:</b> {slip.caution}
        </p>
      )}
      {slip.evidence.length > 0 && (
        <ul className={css.evidence}>
          {slip.evidence.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {slip.causes && slip.causes.length > 0 && <Causes causes={slip.causes} />}
      {waived !== undefined && <p className="soft">Because {waived}.</p>}
      <div className={css.actions}>
        {slip.actions.map((action, position) => (
          <Button
            key={action.label}
            size="xs"
            variant={position === 0 ? 'filled' : 'default'}
            loading={'running' in action && action.running}
            onClick={() => settle(action)}
          >
            {action.label}
          </Button>
        ))}
        {slip.finding && slip.severity !== 'question' && <SetAside finding={slip.finding} />}
      </div>
    </>
  );
}

/** What may be behind it, the likeliest first. */
function Causes({ causes }: { causes: readonly SlipCause[] }) {
  return (
    <ol className={css.causes} aria-label="Likely causes, in this order">
      {causes.map(({ cause, look, go }) => (
        <li key={cause}>
          <b>{cause}.</b> {look} {go && <Link to={go.to}>{go.title}</Link>}
        </li>
      ))}
    </ol>
  );
}
