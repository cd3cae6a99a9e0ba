/** Names as they stand in a sentence: `X`, `X and Y`, `X, Y and Z`. */
export const inSeries = (names: readonly string[]): string =>
  [names.slice(0, -1).join(', '), ...names.slice(-1)].filter((part) => part !== '').join(' and ');
