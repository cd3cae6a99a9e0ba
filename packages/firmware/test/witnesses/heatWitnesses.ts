import { own, type Talk } from '../fixtures/builtMachine';
import { CHAMBER, closing, seen, SPARE, stopsAfter, told, type Witness } from './witness';

type Body = 'hotend' | 'bed' | 'chamber';
const SAY: Record<Body, string> = { hotend: 'M104', bed: 'M140', chamber: 'M141' };
const TARGET: Record<Body, number> = { hotend: 200, bed: 60, chamber: 45 };
const GAINS = { p: [5, 60], i: [0, 8], d: [0, 600] } as const;
const standsWith = (body: Body) => (body === 'chamber' ? CHAMBER : []);

/** The temperatures on the way to a target and at it. */
const warmed = (body: Body) => (talk: Talk) => {
  talk.ask(`${SAY[body]} S${TARGET[body]}`);
  return Array.from({ length: 30 }, () => {
    talk.bench.advance(body === 'hotend' ? 6 : 15);
    return Math.round(talk.bench.truth().temperatureC[body] ?? 0);
  });
};
/** Set to a target while so much of its heat is taken away. */
const chilled = (body: Body, share: number, fromWarm: boolean) => (talk: Talk) => {
  if (fromWarm) talk.ask(`${SAY[body]} S${TARGET[body]}`);
  if (fromWarm) talk.bench.advance(900);
  talk.bench.change((live) => void live.chilled.set(body, share));
  if (!fromWarm) talk.ask(`${SAY[body]} S${TARGET[body]}`);
  return stopsAfter(talk);
};
/** Nearly all of its heat goes: it neither warms nor holds. */
const HARD = 60;
/** It warms a little and stands then. */
const SOFT: Record<Body, number> = { hotend: 14, bed: 5, chamber: 9 };

const guarded = (body: Body): Witness[] => [
  { key: `guard.${body}`, values: [false, true], with: standsWith(body), shows: chilled(body, HARD, false) }, // prettier-ignore
  { key: `guard.${body}.rise`, values: [1, 20], with: standsWith(body), shows: chilled(body, SOFT[body], false) }, // prettier-ignore
  { key: `guard.${body}.rise-time`, values: [30, 400], with: standsWith(body), shows: chilled(body, HARD, false) }, // prettier-ignore
  { key: `guard.${body}.drop`, values: [2, 45], with: [...standsWith(body), own(`guard.${body}.rise-time`, 600)], shows: chilled(body, SOFT[body], true) }, // prettier-ignore
  { key: `guard.${body}.drop-time`, values: [5, 300], with: [...standsWith(body), own(`guard.${body}.rise-time`, 600)], shows: chilled(body, HARD, true) }, // prettier-ignore
  { key: `heat.${body}.max`, values: [40, 110], with: standsWith(body), shows: closing(`${SAY[body]} S60`) },
  { key: `heat.${body}.min`, values: [5, 25], with: standsWith(body), shows: (talk) => { talk.bench.advance(5); return talk.heard.some((line) => line.startsWith('stopped')); } }, // prettier-ignore
  { key: `heat.${body}.cycle`, values: [0.05, 2], with: standsWith(body), shows: seen(({ cycleS }) => cycleS[`${body}-heater`]) }, // prettier-ignore
];

export const heatWitnesses: Witness[] = [
  ...(['hotend', 'bed', 'chamber'] as const).flatMap(guarded),
  ...(['hotend', 'bed'] as const).flatMap((body): Witness[] => [
    { key: `sensor.${body}`, values: ['t100-a', 't100-b'], shows: (talk) => { talk.bench.change((live) => void live.warmed.set(body, 70)); talk.bench.advance(5); return told('M105')(talk); } }, // prettier-ignore
    { key: `control.${body}`, values: ['on-off', 'pid'], shows: warmed(body) },
    { key: `power.${body}`, values: [30, 100], shows: warmed(body) },
    ...(['p', 'i', 'd'] as const).map((gain): Witness => ({ key: `pid.${body}.${gain}`, values: GAINS[gain], shows: warmed(body) })), // prettier-ignore
    ...(['one', 'two'] as const).map((which, index): Witness => ({ key: `preset.${which}.${body}`, values: [40, 50], shows: (talk) => { talk.ask(`preheat n=${index + 1}`); return told('M105')(talk)?.map((line) => /target=\S+/.exec(line)?.[0]); } })), // prettier-ignore
  ]),
  { key: 'bed.heated', values: [false, true], shows: closing('M140 S50') },
  { key: 'sensor.chamber', values: ['t100-a', 't100-b'], with: CHAMBER, shows: (talk) => { talk.bench.change((live) => void live.warmed.set('chamber', 45)); talk.bench.advance(5); return told('M105')(talk); } }, // prettier-ignore
  { key: 'sensor.spare', values: [false, true], with: SPARE, shows: (talk) => { talk.bench.change((live) => void live.warmed.set('spare-sensor', 90)); return stopsAfter(talk); } }, // prettier-ignore
  { key: 'sensor.second', values: ['t100-a', 't10-c'], with: [...SPARE, own('sensor.spare', true)], shows: (talk) => { talk.bench.change((live) => { live.warmed.set('spare-sensor', 150); live.warmed.set('hotend-sensor', 150); }); return stopsAfter(talk); } }, // prettier-ignore
  { key: 'tune.on', values: [false, true], shows: (talk) => { talk.bench.send('tune h=0 c=120'); talk.bench.advance(10); return talk.bench.truth().duty.hotend; } }, // prettier-ignore
];
