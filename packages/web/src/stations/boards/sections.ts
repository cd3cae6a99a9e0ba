import { BOARD_FORM } from '@jolly/core/board/boardForm';

interface Section {
  id: string;
  title: string;
  /** Keys of the file that are said there. */
  keys: readonly string[];
}

const [FIRST, ...REST] = BOARD_FORM;
/** The parts of the form, in the order in which one looks at a board. */
export const SECTIONS: readonly Section[] = [
  { id: 'photo', title: 'Photo', keys: [] },
  ...(FIRST ? [FIRST] : []),
  { id: 'headers', title: 'Headers', keys: ['headers'] },
  ...REST,
  { id: 'file', title: 'File', keys: [] },
];

/** Where a path of the file is said. */
export const sectionOf = (path: string): Section | undefined =>
  SECTIONS.find(({ keys }) => keys.includes(path.split('.')[0] ?? ''));
