/**
 * What it costs to connect a part in one way rather than another, in whole points: about minutes at the bench, and
 * for losses what they are worth to most users. Tables, so that a price is one line. See docs/harness-search.md.
 */
export const PRICES = {
  /** A header made for something else. */
  foreign: { points: 6, words: 'a header made for something else' },
  /** A header made for whatever comes. */
  open: { points: 3, words: 'a header for additions' },
  /** A driver place printed for another axis. */
  'other-socket': { points: 2, words: 'a driver place printed for another axis' },
  /** Its leads go to two headers. */
  split: { points: 8, words: 'leads that go to two headers' },
  splice: { points: 10, words: 'a wire joined to another at its contact' },
  tap: { points: 14, words: 'an adapter board in the ribbon' },
  /** Cheaper than a board to buy, dearer than a splice: a ribbon that is cut stays cut. */
  'ribbon-lead': { points: 12, words: 'a wire cut out of the ribbon, lost to any other display' },
  divider: { points: 8, words: 'a voltage divider' },
  'pull-up': { points: 12, words: 'a resistor to solder as pull-up' },
  'chip-pull-up': { points: 1, words: "the chip's own pull-up instead of a resistor" },
  shifter: { points: 10, words: 'a level shifter' },
  converter: { points: 14, words: 'a voltage converter' },
  /** Against the plug it has now. */
  shell: { points: 3, words: 'another plug shell' },
  contacts: { points: 1, words: 'a shell with another number of contacts' },
  order: { points: 2, words: 'contacts to put in another order' },
  longer: { points: 4, words: 'a lead to lengthen' },
  moved: { points: 3, words: 'a lead that moves on the same board' },
} as const;
export type PriceName = keyof typeof PRICES;

/** Using a contact with a known fault that hits the part. */
export const FAULT_POINTS = { proven: 40, reported: 25, suspected: 12 } as const;

/** What the board cannot do any more when its own pins are taken. */
export const USE_POINTS = { card: 40, 'driver select': 30, beeper: 8, 'boot strap': 50 } as const;

/** What can no longer be added once a header made for it is taken by something else. */
export const PURPOSE_POINTS: Record<string, number> = {
  'bed probe': 12,
  display: 20,
  'hot-end sensor': 30,
  'bed sensor': 30,
  'hot-end heater': 30,
  'bed heater': 30,
  'X switch': 6,
  'Y switch': 6,
  'Z switch': 4,
  'filament sensor': 5,
  'chamber sensor': 4,
  servo: 4,
  'second servo': 4,
  'hot-end fan': 6,
  'part fan': 6,
  'board fan': 2,
  lamp: 2,
  '5 V out': 1,
};
