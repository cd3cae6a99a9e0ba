import type { Warmed } from './machine';

const CALLED: Readonly<Record<Warmed, string>> = {
  hotend: 'hot end',
  'hotend-2': 'second hot end',
  bed: 'bed',
  chamber: 'chamber',
};

/** A heated body within a sentence; what is none keeps its name. */
export const bodyCalled = (name: string): string =>
  Object.hasOwn(CALLED, name) ? CALLED[name as Warmed] : name; // It is one of its keys.
