import { entriesOf } from '@jolly/core/tree/keysOf';
/** What a key of the whole window does. */
export interface KeyBinding {
  /** Keys that do it, one of which is pressed. */
  keys: readonly string[];
  /** How they are written where they are told; the first key where nothing else is said. */
  shown?: string;
  does: string;
  /** A focused button or field keeps the key for itself; whoever binds it decides. */
  shared?: true;
  /** What it is called among the things that can be found, where it is one of them. */
  action?: string;
}

/** Every key of the window, in the order in which they are told. Keys are bound here and nowhere else. */
export const KEYS = {
  station: {
    keys: ['1', '2', '3', '4', '5', '6', '7', '8'],
    shown: '1 – 8',
    does: 'go to a station',
  },
  find: { keys: ['/'], does: 'find anything' },
  nextSlip: { keys: ['j'], does: 'next slip' },
  lastSlip: { keys: ['k'], does: 'previous slip' },
  settle: { keys: ['enter'], does: 'settle the slip', shared: true },
  leave: { keys: ['escape'], does: 'leave a shown change, or a field' },
  docket: { keys: ['d'], does: 'fold or open the docket' },
  letDecide: { keys: ['r'], does: 'let the facts decide the open setting' },
  undo: { keys: ['u'], does: 'undo, also ctrl z', action: 'Undo the last change' },
  redo: { keys: ['shift+u'], shown: 'shift u', does: 'do again', action: 'Do the change again' },
  tape: { keys: ['t'], does: 'pull the tape up or down', action: 'Pull the tape up or down' },
  arms: { keys: ['a'], does: "arm's length: one step in large type" },
  hands: { keys: ['h'], does: 'the hand that a test asks for, or the hands of the bench' },
  stop: { keys: ['.', 'mod+.'], shown: '.', does: 'stop the machine at once', action: 'Stop the machine' },
  help: { keys: ['?', 'shift+?'], shown: '?', does: 'all keys', action: 'Show all keys' },
} as const satisfies Record<string, KeyBinding>;
export type KeyAct = keyof typeof KEYS;

const BINDINGS: Readonly<Record<KeyAct, KeyBinding>> = KEYS;

/** How the keys of an act are written where they are told. */
export const keyWords = (act: KeyAct): string => {
  const { shown, keys } = BINDINGS[act];
  return shown ?? keys.join(' ');
};

/** All acts with their bindings, in the order in which they are told. */
export const keyList = (): [KeyAct, KeyBinding][] => entriesOf(BINDINGS);
