import { Button, NativeSelect, Radio, TextInput } from '@mantine/core';
import css from './Calibrate.module.css';
import type { ChoiceTyped, ChosenBefore } from './useChosen';

/** What is chosen before a tool begins. What is typed and cannot be read, or is out of its range, is said by name. */
export function StartForm({
  before: { choices, set },
  why,
  begin,
}: {
  before: ChosenBefore;
  /** Why it cannot begin yet. */
  why: string | undefined;
  begin: () => void;
}) {
  return (
    <form
      className={css.start}
      aria-label="Before it begins"
      onSubmit={(event) => {
        event.preventDefault();
        if (why === undefined) begin();
      }}
    >
      {choices.length > 0 && (
        <div className={css.choosing}>
          {choices.map((choice) => (
            <Choice key={choice.one.key} choice={choice} set={(text) => set(choice.one.key, text)} />
          ))}
        </div>
      )}
      <div className="row">
        <Button type="submit" disabled={why !== undefined}>
          Begin
        </Button>
        {why !== undefined && <p className="soft">{why}</p>}
      </div>
    </form>
  );
}

function Choice({ choice, set }: { choice: ChoiceTyped; set: (text: string) => void }) {
  const { one, typed, problem } = choice;
  if (!('choices' in one))
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
  if (one.choices.some(({ why }) => why !== undefined))
    return (
      <Radio.Group className={css.ways} label={one.label} description={one.help} value={typed} onChange={set}>
        {one.choices.map(({ id, label, why, notHere }) => (
          <Radio key={id} mt={6} value={id} disabled={notHere === true} label={label} description={why} />
        ))}
      </Radio.Group>
    );
  return (
    <NativeSelect
      label={one.label}
      description={one.help}
      value={typed}
      data={one.choices.map(({ id, label }) => ({ value: id, label }))}
      onChange={(event) => set(event.currentTarget.value)}
    />
  );
}
