/** What a file is, as far as that decides where it belongs. */
export const FILE_KINDS = [
  'machine',
  'board',
  'chip',
  'part',
  'archive',
  'image',
  'photo',
  'map',
  'print',
  'report',
] as const;
export type FileKind = (typeof FILE_KINDS)[number];

/** So many bytes of a file tell what it is. */
export const TELLING_BYTES = 4096;

const ENDINGS: readonly [RegExp, FileKind][] = [
  [/\.zip$/i, 'archive'],
  [/\.(bin|hex|uf2)$/i, 'image'],
  [/\.(jpe?g|png|webp|gif|heic|avif|bmp)$/i, 'photo'],
  [/\.csv$/i, 'map'],
  [/\.(gcode|gco|g)$/i, 'print'],
];
const FAMILY = /^jolly:\s*["']?(machine|board|chip|part)\/1\b/m;

/**
 * What a file is, by what is in it where it is of our own families, by the ending of its name, and else by whether it is
 * text: then it is taken for a settings report. Undefined for what has no place here.
 */
export function kindOfFile(name: string, beginning: Uint8Array): FileKind | undefined {
  const text = textOf(beginning);
  const family = text === undefined ? undefined : FAMILY.exec(text)?.[1];
  // One of the words of the pattern.
  if (family !== undefined) return family as FileKind;
  const named = ENDINGS.find(([ending]) => ending.test(name))?.[1];
  if (named !== undefined) return named;
  return text !== undefined && text.trim() !== '' && !/\.ya?ml$/i.test(name) ? 'report' : undefined;
}

/** The text that bytes are, perhaps cut within its last letter; undefined where they are none. */
function textOf(bytes: Uint8Array): string | undefined {
  if (bytes.includes(0)) return undefined;
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: true });
  } catch {
    return undefined;
  }
}

/** Where a file of a kind is laid, and what becomes of it there. */
export interface FilePlace {
  /** With the machine that is open; undefined where it needs one. */
  at: (machine: string | undefined) => string | undefined;
  says: string;
}
const ofMachine = (rest: string) => (machine: string | undefined) =>
  machine === undefined ? undefined : `/machines/${machine}/${rest}`;
const orShelf = (rest: string) => (machine: string | undefined) => ofMachine(rest)(machine) ?? '/';
const shelf = () => '/';

export const FILE_PLACES: Readonly<Record<FileKind, FilePlace>> = {
  machine: { at: orShelf('settings?view=file'), says: 'A machine file: held against this machine, or laid on the shelf.' },
  board: { at: shelf, says: 'A board file: given to the boards you can choose.' },
  chip: { at: shelf, says: 'A chip file: given to the chips you can choose.' },
  part: { at: shelf, says: 'A part file: given to the parts you can choose.' },
  archive: { at: shelf, says: 'An archive: you are asked what of it is taken in.' },
  image: { at: ofMachine('survey?at=way-back'), says: 'An image: given to what is kept as a way back.' },
  photo: { at: ofMachine('survey?at=photos'), says: 'A photo: given to the photos of this machine.' },
  map: { at: ofMachine('calibrate?tool=map'), says: 'A bed map: given to the maps of this machine.' },
  print: { at: ofMachine('bring-up'), says: 'G-code: given to the card to print from.' },
  report: { at: orShelf('survey?at=report'), says: 'Text: read as a settings report.' },
}; // prettier-ignore
