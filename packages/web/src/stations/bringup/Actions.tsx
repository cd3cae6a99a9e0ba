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
  const tell = async ({ label, lines, after = [] }: BoardAction) => {
    setAnswer({ label, lines: ['…'] });
    const heard: string[] = [];
    const say = async (line: string): Promise<boolean> => {
      const { lines: told, problem } = await ask(line);
      // A power that was switched off is no line of the board's.
      heard.push(...told, ...(problem === undefined || told.includes(problem) ? [] : [problem]));
      return problem === undefined;
    };
    for (const line of lines) if (!(await say(line))) break;
    // What it answers would stand behind the refusal as if all were well.
    for (const line of after) await ask(line);
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
                title={[[...action.lines, ...(action.after ?? [])].join(', '), action.caution]
                  .filter(Boolean)
                  .join(' · ')}
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
