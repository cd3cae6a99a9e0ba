/** Ways to bring a machine up. */
export const BRING_UP_VIEWS = [
  { id: 'power', title: 'First power' },
  { id: 'prove', title: 'Prove it' },
  { id: 'sheet', title: 'Proof sheet' },
] as const;
