/** The folders of the core, lowest first: a folder imports from itself and from folders before it. docs/house.md says why. */
const layers = {
  // Words, trees, bytes and refusals: nothing of printers.
  ground: ['tree', 'text', 'calculation', 'bytes'],
  // Placing items under prices: nothing of boards.
  solver: ['solver'],
  // Formulas of 4-the-arithmetic: numbers in, numbers out.
  arithmetic: ['electricity', 'motion', 'heat', 'probe', 'plate'],
  // What a board, a part, a kit and a machine are.
  model: ['parts', 'board', 'kit', 'report', 'catalogue', 'machine'],
  // What follows from them.
  rules: [
    'circuit',
    'settings',
    'describe',
    'harness',
    'finding',
    'image',
    'build',
    'flash',
    'bringup',
    'proofs',
    'firstPower',
    'slicer',
    'calibration',
    'checks',
    'fit',
    'ripple',
    'find',
    'fleet',
  ],
  // Files and tables for people and other programs.
  formats: ['formats', 'calc'],
};

/** All folders, lowest first. */
export const folders = Object.values(layers).flat();
