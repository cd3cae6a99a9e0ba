/** Which way a deed goes: taken back, or done again. */
export type Way = 'undo' | 'redo';
