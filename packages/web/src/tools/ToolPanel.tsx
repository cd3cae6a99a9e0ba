import { Button, NativeSelect, Textarea, TextInput } from '@mantine/core';
import { CalcError } from '@jolly/core/calculation/calculation';
import { useMemo, useState } from 'react';
import type { PartId } from '@jolly/session/machineParts';
import { useDraft } from '../ui/useDraft';
import { useWorkbench, type Workbench } from '../workbench/Workbench';
import { type Tool, type ToolResult, TypedError } from './tool';
import css from './Tool.module.css';
import { toolsFor } from './tools';

/** The tools that lie beside a part of the machine; one is open. */
export function ToolPanel({
  part,
  chosen,
  onChoose,
}: {
  part: PartId;
  chosen: string | undefined;
  onChoose: (id: string | undefined) => void;
}) {
  const tools = toolsFor(part);
  if (tools.length === 0) return null;
  return (
    <section className={css.tools} aria-label="Tools">
      <h3>Work it out</h3>
      <ul>
        {tools.map((tool) => (
          <li key={tool.id} data-open={tool.id === chosen}>
            <button
              aria-expanded={tool.id === chosen}
              onClick={() => onChoose(tool.id === chosen ? undefined : tool.id)}
            >
              {tool.title}
            </button>
            {tool.id === chosen && <OpenTool key={part} tool={tool} part={part} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

function OpenTool({ tool, part }: { tool: Tool; part: PartId }) {
  const workbench = useWorkbench();
  const fields = useMemo(() => tool.fields(workbench, part), [tool, workbench, part]);
  const [typed, setTyped] = useDraft<Record<string, string>>(
    `tool:${workbench.machine.id}:${tool.id}:${part}`,
    {},
  );
  const [refused, setRefused] = useState<string>();
  const values = Object.fromEntries(fields.map(({ key, start }) => [key, typed[key] ?? start]));
  const set = (key: string, value: string) => setTyped((now) => ({ ...now, [key]: value }));
  const result = workOut(tool, values, workbench, part);
  const apply = async () => {
    if ('problem' in result || !result.apply) return;
    setRefused(await workbench.change(result.apply.label, result.apply.edits));
    setTyped(undefined);
  };

  return (
    <div className={css.open} role="group" aria-label={tool.title}>
      <p>{tool.doing}</p>
      <div className={css.fields}>
        {fields.map(({ key, label, unit, choices, lines, example }) =>
          choices ? (
            <NativeSelect
              key={key}
              size="xs"
              label={label}
              data={choices}
              value={values[key]}
              onChange={(event) => set(key, event.currentTarget.value)}
            />
          ) : lines ? (
            <Textarea
              key={key}
              size="xs"
              className={css.lines}
              label={label}
              placeholder={example}
              autosize
              minRows={3}
              maxRows={8}
              value={values[key]}
              onChange={(event) => set(key, event.currentTarget.value)}
            />
          ) : (
            <TextInput
              key={key}
              size="xs"
              label={label}
              placeholder={example}
              inputMode="decimal"
              value={values[key]}
              rightSection={unit && <span className={css.unit}>{unit}</span>}
              rightSectionWidth={unit ? 14 + 8 * unit.length : 0}
              onChange={(event) => set(key, event.currentTarget.value)}
            />
          ),
        )}
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
      {refused && <p role="alert">{refused}</p>}
      {'apply' in result && result.apply && (
        <Button
          size="xs"
          classNames={{ root: css.apply!, label: css.applyLabel! }}
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
