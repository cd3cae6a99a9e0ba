import { SLOT_BYTES, SLOTS } from './storedSettings';

/** Behind the settings lies the note of a print that may be taken up again, with its zero points where there are several; see store.h. */
const NOTE_BYTES = 96;
const NOTE_WITH_OFFSETS_BYTES = 176;
/** Mark, count and sum of a kept map, and each of its heights; see map.c. */
const MAP_HEAD_BYTES = 6;
const HEIGHT_BYTES = 2;
/** A note is written at each layer, and between no more often than this, in s; see resume.c. */
export const NOTED_EVERY_S = 10;

/** How far the note of a print reaches into a board's store, in bytes. @param offsets whether the image has several zero points */
export const noteReaches = (offsets: boolean): number =>
  SLOTS * SLOT_BYTES + (offsets ? NOTE_WITH_OFFSETS_BYTES : NOTE_BYTES);

/** How far a kept map of so many points reaches into a board's store, in bytes. */
export const mapReaches = (points: number, offsets: boolean): number =>
  noteReaches(offsets) + MAP_HEAD_BYTES + HEIGHT_BYTES * points;
