/** Ways to look at what is built. */
export const BUILD_VIEWS = [
  { id: 'image', title: 'Image' },
  { id: 'fit', title: 'What it costs' },
  { id: 'history', title: 'Builds so far' },
] as const;
