/** A choice of a list, as Mantine's lists take it. */
export interface ListChoice {
  value: string;
  label: string;
}

/** Choices with what is shown among them: without it the browser shows the first one, as if that held. */
export function asShown(
  choices: readonly (string | ListChoice)[],
  shown: string,
  unsaid: string,
): ListChoice[] {
  const all = choices.map((one) => (typeof one === 'string' ? { value: one, label: one } : one));
  return all.some(({ value }) => value === shown) ? all : [{ value: shown, label: shown || unsaid }, ...all];
}
