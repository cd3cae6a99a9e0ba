import { Button } from '@mantine/core';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { usePreview, useWorkbench } from '../../workbench/Workbench';
import { useKeys } from '../keys/useKeys';
import { Refused } from '../../ui/Refused';
import css from './Docket.module.css';
import { SetAside } from './SetAside';
import { SEVERITY_WORD, type Slip, type SlipAction } from './slip';

/** The slips to settle at a station, most serious first. `j` and `k` go through them, `enter` settles one. */
export function Docket({
  title,
  slips,
  empty,
  checking = false,
  children,
}: {
  title: string;
  slips: Slip[];
  /** Said when it is known that there is nothing. */
  empty: string;
  /** Something that could bring more slips is not known yet: nothing is not said before it is. */
  checking?: boolean;
  children?: ReactNode;
}) {
  const [at, setAt] = useState(0);
  const [refused, setRefused] = useState<string>();
  const { showPreview, dropPreview, change } = useWorkbench();
  const shown = usePreview();
  // What is still being typed is made by leaving its field.
  const preview = shown?.draft ? undefined : shown;
  const navigate = useNavigate();
  const list = useRef<HTMLOListElement>(null);
  const chosen = Math.min(at, slips.length - 1);

  const settle = (action: SlipAction | undefined) => {
    if (!action) return;
    setRefused(undefined);
    if ('edits' in action) void showPreview(action.label, action.edits);
    else if ('go' in action) void navigate(action.go);
    else action.run();
  };
  const move = (by: number) => {
    const next = Math.max(0, Math.min(slips.length - 1, chosen + by));
    setAt(next);
    list.current?.children[next]?.scrollIntoView({ block: 'nearest' });
  };
  const make = async () => preview && setRefused(await change(preview.label, preview.edits));

  /** A focused button or link keeps its own enter, and an open dialog keeps it from everything behind. */
  const onEnter = (event: KeyboardEvent) => {
    if (document.querySelector('[role="dialog"]')) return;
    if (event.target instanceof HTMLElement && event.target.closest('button, a, summary')) return;
    if (preview) void make();
    else settle(slips[chosen]?.actions[0]);
  };

  useKeys([
    ['j', () => move(1)],
    ['k', () => move(-1)],
    ['enter', (event) => onEnter(event), { preventDefault: false }],
    ['escape', dropPreview],
  ]);
  useEffect(() => dropPreview, [dropPreview]);

  return (
    <aside className={css.docket} aria-label="Docket" tabIndex={0}>
      <h2>{title}</h2>
      {preview && (
        <div className={css.preview} role="group" aria-label="Change to be made">
          <strong>{preview.label}</strong>
          <span>It is shown on the bench. Make it?</span>
          <div>
            <Button size="xs" onClick={() => void make()}>
              Make the change
            </Button>
            <Button size="xs" variant="default" onClick={dropPreview}>
              Leave it
            </Button>
          </div>
        </div>
      )}
      <Refused why={refused} />
      {children}
      {checking ? (
        <p className={css.empty} role="status">
          Not known yet; still checking.
        </p>
      ) : (
        slips.length === 0 && <p className={css.empty}>{empty}</p>
      )}
      <ol className={css.slips} ref={list}>
        {slips.map((slip, index) => (
          <li
            key={slip.id}
            className={css.slip}
            data-severity={slip.severity}
            data-waived={slip.finding?.waived !== undefined}
            data-chosen={index === chosen}
            onClick={() => setAt(index)}
          >
            <p className={css.head}>
              <b>{slip.finding?.waived === undefined ? SEVERITY_WORD[slip.severity] : 'Set aside'}</b>
              {slip.check && <span className="figures">{slip.check}</span>}
            </p>
            <h3>{slip.what}</h3>
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
            {slip.finding?.waived !== undefined && <p className={css.soft}>Because {slip.finding.waived}.</p>}
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
          </li>
        ))}
      </ol>
    </aside>
  );
}
