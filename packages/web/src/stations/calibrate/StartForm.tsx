import { Button, NativeSelect, TextInput } from '@mantine/core';
import type { CalibrationTool, Choosing, Chosen } from '@jolly/core/calibration/calibrationTool';
import { readNumber } from '../../ui/readNumber';
import { useDraft } from '../../ui/useDraft';
import css from './Calibrate.module.css';

/** What is chosen before a tool begins. What is typed and cannot be read, or is out of its range, is said by name. */
export function StartForm({
  tool,
  machineId,
  why,
  begin,
}: {
  tool: CalibrationTool;
  machineId: string;
  /** Why it cannot begin yet. */
  why: string | undefined;
  begin: (chosen: Chosen) => void;
}) {
  const [typed, setTyped] = useDraft<Record<string, string>>(`measure:${machineId}:${tool.id}`, {});
  const read = tool.choosing.map((one) => ({ one, ...valueOf(one, typed[one.key] ?? String(one.value)) }));
  const wrong = read.find(({ problem }) => problem !== undefined);
  const chosen: Chosen = Object.fromEntries(
    read.flatMap(({ one, value }) => (value === undefined ? [] : [[one.key, value]])),
  );
  return (
    <form
      className={css.start}
      aria-label="Before it begins"
      onSubmit={(event) => {
        event.preventDefault();
        if (why === undefined && !wrong) begin(chosen);
      }}
    >
      {tool.choosing.length > 0 && (
        <div className={css.choosing}>
          {read.map(({ one, problem }) => (
            <Choice
              key={one.key}
              one={one}
              problem={problem}
              typed={typed[one.key] ?? String(one.value)}
              set={(text) => setTyped((before) => ({ ...before, [one.key]: text }))}
            />
          ))}
        </div>
      )}
      <div className="row">
        <Button type="submit" disabled={why !== undefined || wrong !== undefined}>
          Begin
        </Button>
        {why !== undefined && <p className="soft">{why}</p>}
      </div>
    </form>
  );
}

function Choice({
  one,
  typed,
  problem,
  set,
}: {
  one: Choosing;
  typed: string;
  problem: string | undefined;
  set: (text: string) => void;
}) {
  if ('choices' in one)
    return (
      <NativeSelect
        label={one.label}
        description={one.help}
        value={typed}
        data={one.choices.map(({ id, label }) => ({ value: id, label }))}
        onChange={(event) => set(event.currentTarget.value)}
      />
    );
  return (
    <TextInput
      label={one.unit ? `${one.label}, ${one.unit}` : one.label}
      description={one.help}
      value={typed}
      inputMode="decimal"
      error={problem}
      onChange={(event) => set(event.currentTarget.value)}
    />
  );
}

function valueOf(one: Choosing, typed: string): { value?: number | string; problem?: string } {
  if ('choices' in one) return { value: typed };
  const value = readNumber(typed, one.unit);
  const [low, high] = one.range;
  if (value === undefined)
    return { problem: `${one.label}: “${typed}” is no number${one.unit ? ` of ${one.unit}` : ''}` };
  return value < low || value > high
    ? { problem: `${one.label} must be ${low} to ${high} ${one.unit}`.trim() }
    : { value };
}
