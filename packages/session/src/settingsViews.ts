/** Ways to look at the settings. */
export const SETTINGS_VIEWS = [
  { id: 'parts', title: 'Parts' },
  { id: 'plan', title: 'Bed plan' },
  { id: 'directions', title: 'Directions' },
  { id: 'files', title: 'Generated files' },
  { id: 'slicer', title: 'Slicer' },
  { id: 'file', title: 'Machine file' },
] as const;
