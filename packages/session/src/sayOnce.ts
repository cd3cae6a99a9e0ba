/** Says a sentence unless it was the last: what is tried again every few seconds is told once. `fine` forgets it. */
export function sayOnce(say: (text: string) => void): { told(text: string): void; fine(): void } {
  let last: string | undefined;
  return {
    told(text) {
      if (text !== last) say(text);
      last = text;
    },
    fine: () => (last = undefined),
  };
}
