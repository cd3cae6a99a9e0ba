import type { CalibrationTool, Choosing, Chosen } from '@jolly/core/calibration/calibrationTool';
import { readNumber } from '../../ui/readNumber';
import { useDraft } from '../../ui/useDraft';

/** What is typed for one choice of a tool, as it was read. */
export interface ChoiceTyped {
  one: Choosing;
  typed: string;
  value?: number | string;
  /** Why it cannot be taken. */
  problem?: string;
}

/** What is chosen before a tool begins, typed or by keys, on the page as at arm's length. */
export interface ChosenBefore {
  choices: readonly ChoiceTyped[];
  set: (key: string, text: string) => void;
  /** What cannot be read, or is out of its range. */
  problem: string | undefined;
  chosen: Chosen;
}

/** The choices of a tool, as they were typed in this window, else as the tool proposes them. */
export function useChosen(tool: CalibrationTool, machineId: string): ChosenBefore {
  const [texts, setTexts] = useDraft<Record<string, string>>(`measure:${machineId}:${tool.id}`, {});
  const choices = tool.choosing.map((one) => {
    const typed = textOf(one, texts[one.key]);
    return { one, typed, ...valueOf(one, typed) };
  });
  return {
    choices,
    set: (key, text) => setTexts((before) => ({ ...before, [key]: text })),
    problem: choices.find(({ problem }) => problem !== undefined)?.problem,
    chosen: Object.fromEntries(
      choices.flatMap(({ one, value }) => (value === undefined ? [] : [[one.key, value]])),
    ),
  };
}

/** A choice that was typed and can be made no more, after another image, is as the tool proposes it. */
function textOf(one: Choosing, text: string | undefined): string {
  const stands =
    text !== undefined && (!('choices' in one) || one.choices.some(({ id, notHere }) => id === text && !notHere));
  return stands ? text : String(one.value);
} // prettier-ignore

function valueOf(one: Choosing, typed: string): Pick<ChoiceTyped, 'value' | 'problem'> {
  if ('choices' in one) return { value: typed };
  const value = readNumber(typed, one.unit);
  const [low, high] = one.range;
  if (value === undefined)
    return { problem: `${one.label}: “${typed}” is no number${one.unit ? ` of ${one.unit}` : ''}` };
  return value < low || value > high
    ? { problem: `${one.label} must be ${low} to ${high} ${one.unit}`.trim() }
    : { value };
}

/** What was chosen, in words: what a tool is about to begin with. */
export const chosenInWords = ({ choices }: Pick<ChosenBefore, 'choices'>): string[] =>
  choices.map(({ one, value }) =>
    'choices' in one
      ? `${one.label}: ${one.choices.find(({ id }) => id === value)?.label ?? 'not chosen'}`
      : `${one.label}: ${value ?? 'no number'} ${value === undefined ? '' : one.unit}`.trim(),
  );
