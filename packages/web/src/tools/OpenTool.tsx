import { Button, CloseButton } from '@mantine/core';
import { CalcError } from '@jolly/core/calculation/calculation';
import type { PartId } from '@jolly/session/machineParts';
import { useMemo } from 'react';
import { lowerFirst } from '../ui/letterCase';
import { useDraft } from '../ui/useDraft';
import { useWorkbench, type Workbench } from '../workbench/Workbench';
import { type Tool, type ToolResult, TypedError } from './tool';
import css from './Tool.module.css';
import { ToolInput } from './ToolInput';
import { Refused } from '../ui/Refused';
import { useAct } from '../ui/useAct';

/** One tool, laid beside the part of the machine that it works something out for. */
export function OpenTool({ tool, part, putAway }: { tool: Tool; part: PartId; putAway: () => void }) {
  const workbench = useWorkbench();
  const fields = useMemo(() => tool.fields(workbench, part), [tool, workbench, part]);
  const [typed, setTyped] = useDraft<Record<string, string>>(
    `tool:${workbench.machine.id}:${tool.id}:${part}`,
    {},
  );
  const { refused, act } = useAct();
  const values = Object.fromEntries(fields.map(({ key, start }) => [key, typed[key] ?? start]));
  const set = (key: string, value: string) => setTyped((now) => ({ ...now, [key]: value }));
  const result = workOut(tool, values, workbench, part);
  const apply = async () => {
    if ('problem' in result || !result.apply) return;
    const { label, edits } = result.apply;
    if (await act(() => workbench.change(label, edits))) setTyped(undefined);
  };

  return (
    <div className={css.open} role="group" aria-label={tool.title}>
      <div className={css.head}>
        <h3>{tool.title}</h3>
        <CloseButton aria-label={`Put ${lowerFirst(tool.title)} away`} onClick={putAway} />
      </div>
      <p>{tool.doing}</p>
      <div className={css.fields}>
        {fields.map((field) => (
          <ToolInput key={field.key} field={field} value={values[field.key] ?? ''} set={set} />
        ))}
      </div>
      {'problem' in result ? (
        <p className={css.problem} role="status">
          {result.problem}
        </p>
      ) : (
        <div className={css.result} role="status">
          {result.drawing}
          {result.lines.map((line) => (
            <p key={line}>{line}</p>
          ))}
          {result.verdict && (
            <p data-tone={result.verdict.tone} className={css.verdict}>
              {result.verdict.words}
            </p>
          )}
        </div>
      )}
      <Refused why={refused} />
      {'apply' in result && result.apply && (
        <Button
          size="xs"
          classNames={{ root: css['apply'] ?? '', label: css['applyLabel'] ?? '' }}
          onClick={() => void apply()}
        >
          Apply to {workbench.machine.name}: {result.apply.label}
        </Button>
      )}
    </div>
  );
}

function workOut(
  tool: Tool,
  typed: Record<string, string>,
  workbench: Workbench,
  part: PartId,
): ToolResult | { problem: string } {
  try {
    return tool.work(typed, workbench, part);
  } catch (error) {
    if (error instanceof CalcError || error instanceof TypedError) return { problem: error.message };
    throw error;
  }
}
