import type { Talk } from '../fixtures/builtMachine';
import { BOARD_FAN, closing, COLD_FEED, flicker, LAMP, last, REEL, seconds, seen, SERVOS, told, type Witness } from './witness'; // prettier-ignore

const whole = (mm: number) => Math.round(mm);

/** Printed a line, paused in it. */
const paused = (talk: Talk) => {
  last('G28', 'G1 X100 Y100 Z5 F9000', 'M400', 'pause')(talk);
  talk.bench.advance(20);
  return talk.bench.truth().position;
};
/** A print that feeds filament while the reel runs empty. */
const runsEmpty = (talk: Talk) => {
  last('G28', 'G1 X10 Y100 Z5 F9000', 'M400', 'G1 X190 E20 F1500')(talk);
  talk.bench.hold('reel', true);
  talk.bench.advance(12);
  return talk.ask('state').find((line) => line.startsWith('print'));
};

export const restWitnesses: Witness[] = [
  { key: 'machine.name', values: ['One', 'Two'], shows: told('M115') },
  { key: 'link.baud', values: [9600, 115200], shows: seconds('M503') },
  { key: 'store.kept', values: [false, true], shows: closing('M500') },
  { key: 'store.report', values: [false, true], shows: closing('M503') },
  { key: 'reply.long', values: [false, true], shows: closing('M104 S900') },
  { key: 'fan.part', values: [false, true], shows: seen(({ fans }) => fans['part-fan'], 'M106 S255') },
  { key: 'fan.hotend.from', values: [10, 50], shows: (talk) => { talk.bench.advance(1); return talk.bench.truth().fans['hotend-fan']; } }, // prettier-ignore
  { key: 'fan.board.by', values: ['always', 'with-motion'], with: BOARD_FAN, shows: (talk) => { talk.bench.advance(1); return talk.bench.truth().fans['board-fan']; } }, // prettier-ignore
  {
    key: 'lamp.on',
    values: [false, true],
    with: LAMP,
    shows: seen(({ lamps }) => lamps['lamp'], 'lamp s=128'),
  },
  { key: 'servo.count', values: [0, 1], shows: closing('servo n=1 w=1000') },
  ...(['a', 'b', 'c', 'd'] as const).map((name, index): Witness => ({
    key: `servo.arrive.${name}`,
    values: [0.1, 1.5],
    with: SERVOS,
    shows: seconds(`servo n=${index + 1} w=1000`),
  })),
  { key: 'beeper.on', values: [false, true], shows: seen(({ beeperHz }) => beeperHz, 'M300 S500 P3000') },
  { key: 'filament.sensor', values: [false, true], with: [...REEL, ...COLD_FEED], shows: runsEmpty },
  { key: 'filament.reads', values: ['low', 'high'], with: REEL, shows: (talk) => talk.ask('state').find((line) => line.startsWith('filament')) }, // prettier-ignore
  { key: 'filament.pull-up', values: [false, true], with: REEL, shows: (talk) => { talk.bench.hold('reel', true); return flicker('state', /filament state=(\w+)/)(talk); } }, // prettier-ignore
  { key: 'pause.on', values: [false, true], shows: (talk) => whole(paused(talk).z) },
  { key: 'park.x', values: [10, 60], shows: (talk) => whole(paused(talk).x) },
  { key: 'park.y', values: [10, 60], shows: (talk) => whole(paused(talk).y) },
  { key: 'park.lift', values: [2, 20], shows: (talk) => whole(paused(talk).z) },
  { key: 'change.on', values: [false, true], with: COLD_FEED, shows: (talk) => { paused(talk); return closing('swap filament')(talk); } }, // prettier-ignore
  { key: 'change.draw', values: [30, 90], with: COLD_FEED, shows: (talk) => { paused(talk); last('swap filament')(talk); return whole(talk.bench.truth().position.e); } }, // prettier-ignore
];
