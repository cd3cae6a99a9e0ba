import { type BoardAction, boardActions } from '@jolly/core/bringup/boardActions';
import { Button } from '@mantine/core';
import { useMemo, useState } from 'react';
import { useBench } from '../../bench/BenchProvider';
import { useImageSettings } from '../../app/frame/useBuiltWith';
import { useWorkbench } from '../../workbench/Workbench';
import css from './Actions.module.css';

/** What the board can be told with one key; each key shows on the tape what it sends. */
export function Actions({ awake, busy }: { awake: boolean; busy: boolean }) {
  const { ask } = useBench();
  const { facts } = useWorkbench();
  // What the image that runs understands.
  const settings = useImageSettings();
  const groups = useMemo(() => boardActions(facts, settings), [facts, settings]);
  const [answer, setAnswer] = useState<{ label: string; lines: string[] }>();
  const tell = async ({ label, lines }: BoardAction) => {
    setAnswer({ label, lines: ['…'] });
    const heard: string[] = [];
    for (const line of lines) {
      const { lines: told, problem } = await ask(line);
      heard.push(...told, ...(problem === undefined ? [] : [problem]));
      if (problem !== undefined || told.some((entry) => /^(error|stopped)/.test(entry))) break;
    }
    setAnswer({ label, lines: heard.filter((line) => !line.startsWith('meanwhile')) });
  };
  return (
    <section className={css.actions} aria-label="Tell the board">
      {groups.map(({ title, actions }) => (
        <fieldset key={title} disabled={!awake || busy}>
          <legend>{title}</legend>
          <div className={css.keys}>
            {actions.map((action) => (
              <Button
                key={action.label}
                size="compact-sm"
                variant="default"
                title={[action.lines.join(', '), action.caution].filter(Boolean).join(' · ')}
                onClick={() => void tell(action)}
              >
                {action.label}
              </Button>
            ))}
          </div>
        </fieldset>
      ))}
      <output aria-live="polite" className={css.answer}>
        {answer && (
          <>
            <strong>{answer.label}</strong> {answer.lines.slice(-6).join(' · ')}
          </>
        )}
      </output>
    </section>
  );
}
