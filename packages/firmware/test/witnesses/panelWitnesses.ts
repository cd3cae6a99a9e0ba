import { entriesOf } from '@jolly/core/tree/keysOf';
import { own, type Talk } from '../fixtures/builtMachine';
import { closing, COLD_FEED, DISPLAY, last, type Witness } from './witness';

/** What stands on the display after so long. */
const shown = (talk: Talk, seconds: number) => {
  talk.bench.advance(seconds);
  const look = talk.bench.display();
  return look?.shows === 'text' ? look.rows : look && [...look.bytes].join();
};
/** The rows of the first menu, gone through. */
const menu = (talk: Talk) => {
  shown(talk, 4);
  talk.bench.press();
  return Array.from({ length: 8 }, () => {
    const rows = shown(talk, 1);
    talk.bench.turn(1);
    return rows;
  });
};
const TEXT = [...DISPLAY('slate-20'), own('display.kind', 'text')];

const TOUCHED = [...DISPLAY('vista-128'), own('display.kind', 'pixel'), own('display.touch', true)];
/** What the layer of the bench's display says at its marks. */
const MARKS = { left: 394, right: 3686, top: 3507, bottom: 653 };
const MARKED = [...TOUCHED, ...entriesOf(MARKS).map(([side, says]) => own(`touch.${side}`, says))];
/** Taps letters of the screen, each as row and column; what the nudge then is. */
const nudgeAfter =
  (...taps: [number, number][]) =>
  (talk: Talk): string | undefined => {
    talk.bench.advance(4);
    for (const [row, column] of taps) {
      talk.bench.touch({ x: (column + 0.5) / 21, y: (row + 0.5) / 8 });
      talk.bench.advance(0.2);
      talk.bench.touch(undefined);
      talk.bench.advance(0.4);
    }
    return talk.ask('M503').find((line) => line.startsWith('setting nudge'));
  };
/** The menu, its row of the plate, the slider, and a place on it. */
const slid = (column: number) => nudgeAfter([0, 0], [6, 2], [5, 2], [4, column]);

export const panelWitnesses: Witness[] = [
  {
    key: 'display.kind',
    values: ['none', 'text'],
    with: DISPLAY('slate-20'),
    shows: (talk) => shown(talk, 5),
  },
  { key: 'display.picture', values: [false, true], with: TEXT, shows: (talk) => shown(talk, 1) },
  { key: 'display.menus', values: ['full', 'short'], with: TEXT, shows: menu },
  { key: 'display.language', values: ['english', 'german'], with: TEXT, shows: menu },
  { key: 'display.touch', values: [false, true], with: TOUCHED, shows: (talk) => shown(talk, 5) },
  { key: 'touch.leap', values: [0.05, 0.3], with: MARKED, shows: slid(0) },
  { key: 'touch.left', values: [394, 3000], with: [...MARKED, own('touch.leap', 1)], shows: slid(15) },
  { key: 'touch.right', values: [3686, 1000], with: [...MARKED, own('touch.leap', 1)], shows: slid(8) },
  { key: 'touch.top', values: [3507, 2000], with: MARKED, shows: slid(0) },
  { key: 'touch.bottom', values: [653, 2500], with: MARKED, shows: slid(0) },
  { key: 'link.host-port', values: ['first', 'second'], shows: (talk) => talk.heard.length > 0 },
  { key: 'link.display-port', values: ['none', 'second'], shows: (talk) => { talk.bench.advance(2); return talk.bench.panelLines(); } }, // prettier-ignore
  { key: 'card.print', values: [false, true], shows: closing('card list') },
  { key: 'card.locked', values: [false, true], with: [...COLD_FEED, own('resume.on', true)], shows: noted },
  { key: 'resume.on', values: [false, true], with: COLD_FEED, shows: closing('card resume') },
];

/** Whether a print that was begun left a note on the card. */
function noted(talk: Talk): unknown {
  last('G28', 'card print n=1')(talk);
  talk.bench.advance(30);
  return talk.cardNames();
}
