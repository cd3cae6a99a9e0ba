/** What was under way on a machine's bench when its window went, so that it can be said afterwards. */
export interface Left {
  at: number;
  what: string[];
}

const keyOf = (machineId: string) => `bench-left:${machineId}`;

export function noteLeft(machineId: string, what: string[]): void {
  if (what.length > 0) localStorage.setItem(keyOf(machineId), JSON.stringify({ at: Date.now(), what }));
}

/** What was under way, once. */
export function takeLeft(machineId: string): Left | undefined {
  const text = localStorage.getItem(keyOf(machineId));
  localStorage.removeItem(keyOf(machineId));
  if (text === null) return undefined;
  try {
    // Only this file writes there.
    return JSON.parse(text) as Left;
  } catch {
    return undefined;
  }
}
