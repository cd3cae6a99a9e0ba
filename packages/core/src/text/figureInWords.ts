/**
 * A measured number as it is read: three digits after the point, four below 1, no ends of binary fractions, and a true
 * minus.
 */
export const figureInWords = (value: number): string =>
  String(Number(value.toFixed(Math.abs(value) < 1 ? 4 : 3)) + 0).replace('-', '−');
