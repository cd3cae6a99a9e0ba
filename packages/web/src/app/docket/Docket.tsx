import { IconChevronLeft, IconChevronRight } from '@tabler/icons-react';
import { Children, type ReactNode, useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { useNavigate } from 'react-router';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { usePreview, useWorkbench } from '../../workbench/Workbench';
import { useKeys } from '../keys/useKeys';
import css from './Docket.module.css';
import { PreviewNote } from './PreviewNote';
import type { Slip, SlipAction } from './slip';
import { SlipList } from './SlipList';
import { useFold } from './useFold';

interface DocketContent {
  title: string;
  slips: Slip[];
  /** Said when it is known that there is nothing. */
  empty: string;
  /** Something that could bring more slips is not known yet: nothing is not said before it is. */
  checking?: boolean;
  children?: ReactNode;
}

/**
 * The slips to settle at a station, most serious first. `j` and `k` go through them, `enter` settles one. With nothing in
 * it, it folds to a strip with its count, and opens by itself when something comes.
 */
export function Docket({ title, slips, empty, checking = false, children }: DocketContent) {
  const [at, setAt] = useState(0);
  const { refused, act, forget } = useAct();
  const { showPreview, dropPreview, change } = useWorkbench();
  const shown = usePreview();
  // What is still being typed is made by leaving its field.
  const preview = shown?.draft ? undefined : shown;
  const navigate = useNavigate();
  const chosen = Math.min(at, slips.length - 1);
  const more = preview !== undefined || refused !== undefined || Children.toArray(children).length > 0;
  const { folded, fold } = useFold(
    slips.map(({ id }) => id),
    { more, checking },
  );

  const settle = (action: SlipAction | undefined) => {
    if (!action) return;
    forget();
    if ('edits' in action) void act(() => showPreview(action.label, action.edits));
    else if ('go' in action) void navigate(action.go);
    else void act(async () => (await action.run()) || undefined);
  };
  const list = useRef<HTMLOListElement>(null);
  const move = (by: number) => {
    // Whoever comes from elsewhere begins with the slip that is chosen.
    const from = chosenSlip(list.current)?.contains(document.activeElement) ? by : 0;
    flushSync(() => setAt(Math.max(0, Math.min(slips.length - 1, chosen + from))));
    actAt(chosenSlip(list.current))?.focus();
  };
  const make = () => preview && act(() => change(preview.label, preview.edits));

  /** What has the focus keeps its own enter, and an open dialog keeps it from everything behind. */
  const onEnter = (event: KeyboardEvent) => {
    if (event.defaultPrevented || document.querySelector('[role="dialog"]')) return;
    if (event.target instanceof HTMLElement && event.target.closest('button, a, summary')) return;
    const action = slips[chosen]?.actions[0];
    if (preview) void make();
    else if (action && 'run' in action) {
      // What runs may move or heat: its button has the focus first, and this very press must not reach it there.
      event.preventDefault();
      actAt(chosenSlip(list.current))?.focus();
    } else settle(action);
  };

  useKeys({
    nextSlip: () => move(1),
    lastSlip: () => move(-1),
    settle: onEnter,
    leave: dropPreview,
    docket: () => fold(!folded),
  });
  useEffect(() => dropPreview, [dropPreview]);

  const nothing = checking ? 'Not known yet; still checking.' : empty;
  if (folded)
    return (
      <Strip
        title={title}
        count={slips.length}
        says={slips.length === 0 ? nothing : ''}
        open={() => fold(false)}
      />
    );
  return (
    <aside className={css.docket} aria-label="Docket" tabIndex={0}>
      <div className={css.top}>
        <h2>{title}</h2>
        <button
          type="button"
          className={css.fold}
          data-screen-only
          aria-label="Fold the docket"
          onClick={() => fold(true)}
        >
          <IconChevronRight size={18} />
        </button>
      </div>
      {preview && <PreviewNote preview={preview} make={() => void make()} leave={dropPreview} />}
      <Refused why={refused} />
      {children}
      {(checking || slips.length === 0) && (
        <p className={css.empty} role={checking ? 'status' : undefined}>
          {nothing}
        </p>
      )}
      <SlipList list={list} slips={slips} chosen={chosen} choose={setAt} settle={settle} />
    </aside>
  );
}

const chosenSlip = (list: HTMLElement | null) =>
  list?.querySelector<HTMLElement>('[data-chosen="true"]') ?? undefined;
/** What the focus goes to at a slip: what it offers first, else the slip itself. */
const actAt = (slip: HTMLElement | undefined): HTMLElement | undefined => {
  const button = slip?.querySelector<HTMLElement>('button:not(:disabled)');
  return button?.checkVisibility() ? button : (slip?.querySelector<HTMLElement>('summary') ?? slip);
};

/** The docket folded: its count, and what it says when it has nothing. */
function Strip({
  title,
  count,
  says,
  open,
}: {
  title: string;
  count: number;
  says: string;
  open: () => void;
}) {
  const slips = count === 1 ? '1 slip' : `${count} slips`;
  return (
    <aside className={css.strip} aria-label="Docket" data-folded>
      <button
        type="button"
        aria-expanded={false}
        aria-label={`Open the docket: ${title}, ${slips}`}
        onClick={open}
      >
        <IconChevronLeft size={18} />
        <b className="figures">{count}</b>
      </button>
      <p>
        <b>{title}</b> {says}
      </p>
    </aside>
  );
}
