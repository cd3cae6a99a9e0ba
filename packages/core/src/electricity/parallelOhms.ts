/** Resistances in parallel as one, in Ω: 1 / (1/R₁ + 1/R₂ + …); Infinity of none, as nothing conducts. */
export const parallelOhms = (ohms: readonly number[]): number =>
  1 / ohms.reduce((conducts, each) => conducts + 1 / each, 0);
