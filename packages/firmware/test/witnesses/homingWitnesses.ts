import type { Edit } from '@jolly/core/machine/edit';
import { own } from '../fixtures/builtMachine';
import {
  closing,
  flicker,
  last,
  PLUMB,
  seconds,
  seen,
  SMALL_MAP,
  told,
  type Witness,
  Z_SWITCH,
} from './witness';

const onHeaderZ = (axis: string): Edit[] =>
  axis === 'z'
    ? Z_SWITCH
    : [{ path: ['harness', `${axis}-switch`], value: { leads: { signal: 'STOP-Z.3', ground: 'STOP-Z.2' } } }];
const byswitch: Edit[] = [...Z_SWITCH, own('home.z.with', 'switch')];
const whole = (mm: number) => Math.round(mm);

const ofSwitch = (axis: 'x' | 'y' | 'z'): Witness[] => [
  { key: `switch.${axis}.pressed`, values: ['low', 'high'], with: axis === 'z' ? Z_SWITCH : [], shows: told('M119') }, // prettier-ignore
  {
    key: `switch.${axis}.pull-up`,
    values: [false, true],
    with: onHeaderZ(axis),
    shows: (talk) => {
      talk.bench.hold(`${axis}-switch`, true);
      return flicker('M119', new RegExp(`${axis}=(\\w+)`))(talk);
    },
  },
  { key: `home.${axis}.side`, values: ['min', 'max'], with: axis === 'z' ? byswitch : [], shows: closing(`G28 ${axis.toUpperCase()}`) }, // prettier-ignore
  { key: `home.speed.${axis}`, values: axis === 'z' ? [2, 8] : [8, 40], with: axis === 'z' ? byswitch : [], shows: seconds(`G28 ${axis.toUpperCase()}`) }, // prettier-ignore
];

/** Plover's probe, over a spot in the middle. */
const height = seen(({ position }) => Math.round(position.z * 100) / 100, 'G28');

export const homingWitnesses: Witness[] = [
  ...(['x', 'y', 'z'] as const).flatMap(ofSwitch),
  { key: 'home.z.with', values: ['switch', 'probe'], with: Z_SWITCH, shows: seen(({ position }) => whole(position.z), 'G28') }, // prettier-ignore
  { key: 'home.spot.x', values: [80, 110], shows: seen(({ position }) => whole(position.x), 'G28') },
  { key: 'home.spot.y', values: [80, 110], shows: seen(({ position }) => whole(position.y), 'G28') },
  { key: 'probe.kind', values: ['none', 'pin'], with: byswitch, shows: closing('M401') },
  { key: 'probe.triggered', values: ['low', 'high'], shows: told('M119') },
  { key: 'probe.pull-up', values: [false, true], with: PLUMB, shows: flicker('M119', /probe=(\w+)/) },
  { key: 'probe.deploy', values: [700, 1450], shows: seen(({ probe }) => probe?.deployed, 'M401') },
  { key: 'probe.stow', values: [700, 1450], shows: seen(({ probe }) => probe?.deployed, 'M401', 'M402') },
  { key: 'probe.clear', values: [6, 12], shows: height },
  { key: 'probe.offset.x', values: [-38, -20], shows: seen(({ position }) => whole(position.x), 'G28') },
  { key: 'probe.offset.y', values: [-20, -9], shows: seen(({ position }) => whole(position.y), 'G28') },
  { key: 'probe.offset.z', values: [-3, -2], shows: told('G28', 'M114') },
  { key: 'probe.plug', values: ['own-header', 'z-header'], shows: (talk) => { talk.ask('M401'); talk.bench.hold('probe', true); return told('M119')(talk); } }, // prettier-ignore
  { key: 'probe.feed', values: [1, 4], shows: seconds('G28', 'repeat n=2') },
  { key: 'probe.touches', values: [1, 4], shows: seconds('G28', 'tram n=1') },
  { key: 'probe.deploy-time', values: [0.3, 2], shows: seconds('M401') },
  { key: 'probe.alarm', values: [false, true], shows: (talk) => { talk.ask('G28'); talk.bench.hold('probe', true); return told('repeat n=2')(talk); } }, // prettier-ignore
  { key: 'probe.repeat', values: [false, true], shows: closing('repeat n=2') },
  { key: 'map.on', values: [false, true], shows: last('map show') },
  { key: 'map.shim', values: [false, true], shows: last('G28', 'map shim') },
  {
    key: 'map.columns',
    values: [2, 3],
    with: SMALL_MAP.slice(1),
    shows: last('G28', 'map take', 'map show'),
  },
  { key: 'map.rows', values: [2, 3], with: [own('map.columns', 2), own('probe.touches', 1)], shows: last('G28', 'map take', 'map show') }, // prettier-ignore
  ...(['x', 'y'] as const).flatMap((axis): Witness[] => [
    { key: `map.${axis}.min`, values: [20, 60], with: SMALL_MAP, shows: told('G28', 'map take') },
    { key: `map.${axis}.max`, values: [150, 190], with: SMALL_MAP, shows: told('G28', 'map take') },
  ]),
  { key: 'map.fade', values: [0, 8], with: SMALL_MAP, shows: seen(({ position }) => Math.round(position.z * 400), 'G28', 'map take', 'G1 X6 Y10 Z8 F6000', 'M400') }, // prettier-ignore
  { key: 'map.after-home', values: ['left-off', 'restored'], with: SMALL_MAP, shows: (talk) => { last('G28', 'map take', 'G28')(talk); return talk.ask('state').find((line) => line.startsWith('map')); } }, // prettier-ignore
  { key: 'map.park', values: [false, true], with: SMALL_MAP, shows: seen(({ position }) => whole(position.z), 'G28', 'map take') }, // prettier-ignore
  { key: 'tilt.by', values: ['no', 'three-point'], shows: told('G28', 'tilt take') },
  { key: 'tram.on', values: [false, true], shows: closing('tram') },
  { key: 'nudge.on', values: [false, true], shows: closing('nudge z=0.02') },
  { key: 'nudge.start', values: [-0.3, 0], shows: seen(({ position }) => Math.round(position.z * 20), 'G28', 'G1 Z5', 'M400') }, // prettier-ignore
];
