/** A clause as a sentence of its own: its first letter a capital, and a full stop where it ends without one. */
export const asSentence = (clause: string): string =>
  `${clause.charAt(0).toUpperCase()}${clause.slice(1)}${/[.?]$/.test(clause) ? '' : '.'}`;
