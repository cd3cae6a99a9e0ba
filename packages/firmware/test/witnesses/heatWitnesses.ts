import type { Edit } from '@jolly/core/machine/edit';
import type { Warmed } from '@jolly/core/machine/machine';
import type { HeatKey } from '@jolly/core/settings/heatKey';
import { own, type Talk } from '../fixtures/builtMachine';
import { CHAMBER, closing, seen, SPARE, stopsAfter, told, type Witness } from './witness';

const GAINS = { p: [5, 60], i: [0, 8], d: [0, 600] } as const;

/** A heated body: what its settings are called, what heats it, and how it is asked. */
export interface Body {
  key: HeatKey;
  body: Warmed;
  heater: string;
  say: string;
  targetC: number;
  /** So much taken away, as a share of its own losses, and it warms a little and stands then. */
  soft: number;
}
const BODIES: readonly Body[] = [
  { key: 'hotend', body: 'hotend', heater: 'hotend-heater', say: 'M104', targetC: 200, soft: 14 },
  { key: 'bed', body: 'bed', heater: 'bed-heater', say: 'M140', targetC: 60, soft: 5 },
];
const CHAMBER_BODY: Body = { key: 'chamber', body: 'chamber', heater: 'chamber-heater', say: 'M141', targetC: 45, soft: 9 }; // prettier-ignore

/** The temperatures on the way to a target and at it. */
const warmed =
  ({ say, body, targetC }: Body) =>
  (talk: Talk) => {
    talk.ask(`${say} S${targetC}`);
    return Array.from({ length: 30 }, () => {
      talk.bench.advance(targetC > 100 ? 6 : 15);
      return Math.round(talk.bench.truth().temperatureC[body] ?? 0);
    });
  };
/** Set to a target while so much of its heat is taken away. */
const chilled =
  ({ say, body, targetC }: Body, share: number, fromWarm: boolean) =>
  (talk: Talk) => {
    if (fromWarm) talk.ask(`${say} S${targetC}`);
    if (fromWarm) talk.bench.advance(900);
    talk.bench.change((live) => void live.chilled.set(body, share));
    if (!fromWarm) talk.ask(`${say} S${targetC}`);
    return stopsAfter(talk);
  };
/** Nearly all of its heat goes: it neither warms nor holds. */
const HARD = 60;

/** What a body's guard and limits do, on a machine that stands `as`. */
export function guarded(of: Body, as: readonly Edit[] = []): Witness[] {
  const { key, say, soft, heater } = of;
  const patient = [...as, own(`guard.${key}.rise-time`, 600)];
  return [
    { key: `guard.${key}`, values: [false, true], with: as, shows: chilled(of, HARD, false) },
    { key: `guard.${key}.rise`, values: [1, 20], with: as, shows: chilled(of, soft, false) },
    { key: `guard.${key}.rise-time`, values: [30, 400], with: as, shows: chilled(of, HARD, false) },
    { key: `guard.${key}.drop`, values: [2, 45], with: patient, shows: chilled(of, soft, true) },
    { key: `guard.${key}.drop-time`, values: [5, 300], with: patient, shows: chilled(of, HARD, true) },
    { key: `heat.${key}.max`, values: [40, 110], with: as, shows: closing(`${say} S60`) },
    { key: `heat.${key}.min`, values: [5, 25], with: as, shows: (talk) => { talk.bench.advance(5); return talk.heard.some((line) => line.startsWith('stopped')); } }, // prettier-ignore
    { key: `heat.${key}.cycle`, values: [0.05, 2], with: as, shows: seen(({ cycleS }) => cycleS[heater]) },
  ];
}

/** How a body is read and steered. */
export const steered = (of: Body, as: readonly Edit[] = []): Witness[] => [
  { key: `sensor.${of.key}`, values: ['t100-a', 't100-b'], with: as, shows: (talk) => { talk.bench.change((live) => void live.warmed.set(of.body, 70)); talk.bench.advance(5); return told('M105')(talk); } }, // prettier-ignore
  { key: `control.${of.key}`, values: ['on-off', 'pid'], with: as, shows: warmed(of) },
  { key: `power.${of.key}`, values: [30, 100], with: as, shows: warmed(of) },
  ...(['p', 'i', 'd'] as const).map((gain): Witness => ({ key: `pid.${of.key}.${gain}`, values: GAINS[gain], with: as, shows: warmed(of) })), // prettier-ignore
];

export const heatWitnesses: Witness[] = [
  ...BODIES.flatMap((body) => [...guarded(body), ...steered(body)]),
  ...guarded(CHAMBER_BODY, CHAMBER),
  ...(['hotend', 'bed'] as const).flatMap(
    (body) =>
    (['one', 'two'] as const).map((which, index): Witness => ({ key: `preset.${which}.${body}`, values: [40, 50], shows: (talk) => { talk.ask(`preheat n=${index + 1}`); return told('M105')(talk)?.map((line) => /target=\S+/.exec(line)?.[0]); } })), // prettier-ignore
  ),
  { key: 'bed.heated', values: [false, true], shows: closing('M140 S50') },
  { key: 'sensor.chamber', values: ['t100-a', 't100-b'], with: CHAMBER, shows: (talk) => { talk.bench.change((live) => void live.warmed.set('chamber', 45)); talk.bench.advance(5); return told('M105')(talk); } }, // prettier-ignore
  { key: 'sensor.spare', values: [false, true], with: SPARE, shows: (talk) => { talk.bench.change((live) => void live.warmed.set('spare-sensor', 90)); return stopsAfter(talk); } }, // prettier-ignore
  { key: 'sensor.second', values: ['t100-a', 't10-c'], with: [...SPARE, own('sensor.spare', true)], shows: (talk) => { talk.bench.change((live) => { live.warmed.set('spare-sensor', 150); live.warmed.set('hotend-sensor', 150); }); return stopsAfter(talk); } }, // prettier-ignore
  { key: 'tune.on', values: [false, true], shows: (talk) => { talk.bench.send('tune h=0 c=120'); talk.bench.advance(10); return talk.bench.truth().duty.hotend; } }, // prettier-ignore
];
