import { isFilled } from '../tree/filled';
import { TOLERANCE } from '../calculation/calculation';
import type { Facts } from '../machine/facts';
import type { Point } from '../probe/mapGrid';
import { mapPoints } from '../settings/mapPoints';
import { reachOf } from '../settings/reachOf';
import { numberOf, type Settings, spanOf } from '../settings/setting';
import { readStartCode, type StartProblem } from '../slicer/readStartCode';
import { overrideEdit } from '../machine/edit';
import type { Check } from './check';
import type { Remedy, Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';

/** A map should not carry more than this, in mm. */
const MOST_MM = 1;
/** Below this a map would fade out within the first layers, in mm. */
const FADE_FROM_MM = 3;

const mapped = (settings: Settings) => settings.get('map.on')?.value === true;

function outsideReach(_facts: Facts, settings: Settings): Spoken[] {
  if (!mapped(settings) || settings.get('probe.kind')?.value === 'none') return [];
  const reach = reachOf(settings);
  return (['x', 'y'] as const).flatMap((axis) => {
    const [from, to] = spanOf(settings, `map.${axis}`);
    const limits = reach?.[axis];
    const [low, high] = limits ?? [Infinity, -Infinity];
    const over = { min: from < low - TOLERANCE, max: to > high + TOLERANCE };
    const key = over.min ? `map.${axis}.min` : `map.${axis}.max`;
    if (!over.min && !over.max && from < to) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `The probe cannot reach all map points in ${axis.toUpperCase()}.`,
        why:
          from < to
            ? 'Probing would stop with an error, or meet the edge of the plate.'
            : 'The map has no width.',
        evidence: [
          `map ${from} to ${to} mm`,
          limits ? `probe reaches ${limits[0]} to ${limits[1]} mm` : 'the probe reaches no part of the plate',
        ],
        remedies: [...resetRemedy(settings, key), ...(limits ? withinRemedy(axis, limits) : [])],
      },
    ];
  });
}

/** The map drawn in to what the probe reaches, in whole tenths of a millimetre. */
function withinRemedy(axis: 'x' | 'y', [low, high]: readonly [number, number]): Remedy[] {
  const [from, to] = [Math.ceil(low * 10 - TOLERANCE) / 10, Math.floor(high * 10 + TOLERANCE) / 10];
  if (from >= to) return [];
  const because = 'what the probe reaches';
  return [
    {
      label: `Map from ${from} to ${to} mm in ${axis.toUpperCase()}`,
      edits: [overrideEdit(`map.${axis}.min`, from, because), overrideEdit(`map.${axis}.max`, to, because)],
    },
  ];
}

/** Where the probe would meet a clip: points of the map, and the Z home spot. */
function onClip({ machine }: Facts, settings: Settings): Spoken[] {
  const clips = machine.frame.clips_mm ?? [];
  if (clips.length === 0 || settings.get('probe.kind')?.value === 'none') return [];
  const meets = ({ x, y }: Point) =>
    clips.some((clip) => x >= clip.x[0] && x <= clip.x[1] && y >= clip.y[0] && y <= clip.y[1]);
  const spot = { x: numberOf(settings, 'home.spot.x'), y: numberOf(settings, 'home.spot.y') };
  const points = mapPoints(settings)?.points.filter(meets) ?? [];
  const said = (key: string, what: string, places: Point[]): Spoken => ({
    subject: aboutSetting(key),
    what,
    why: 'The probe would feel the clip for the plate, or bend on it. Move the clip, or what is probed there.',
    evidence: places.slice(0, 4).map(({ x, y }) => `X ${x}, Y ${y} mm`),
    remedies: resetRemedy(settings, key),
  });
  const byProbe = settings.get('home.z.with')?.value === 'probe';
  return [
    ...(byProbe && meets(spot) ? [said('home.spot.x', 'The Z home spot lies on a clip.', [spot])] : []),
    ...(points.length > 0
      ? [
          said(
            'map.x.min',
            `${points.length === 1 ? 'A map point lies' : `${points.length} map points lie`} on a clip.`,
            points,
          ),
        ]
      : []),
  ];
}

const LINES = { 'map.columns': 'Columns', 'map.rows': 'Rows' } as const;

function noCentre(_facts: Facts, settings: Settings): Spoken[] {
  if (!mapped(settings)) return [];
  const even = (['map.columns', 'map.rows'] as const).filter((key) => numberOf(settings, key) % 2 === 0);
  if (!isFilled(even)) return [];
  const oneMore = (key: string) => numberOf(settings, key) + 1;
  return [
    {
      subject: aboutSetting(even[0]),
      what: 'An even count of map points misses the centre of the plate.',
      why: 'Most prints stand at the centre, and a bowl is deepest there. One more line, or one less, touches it.',
      evidence: ['map.columns', 'map.rows'].map((key) => asSet(settings, key)),
      remedies: [
        {
          label: even.map((key) => `${LINES[key]}: ${oneMore(key)}`).join(', '),
          edits: even.map((key) => overrideEdit(key, oneMore(key), 'an odd count touches the centre')),
        },
      ],
    },
  ];
}

function tooMuch({ machine }: Facts): Spoken[] {
  const heights = machine.bed_map?.z.flat();
  if (!heights) return [];
  const range = Math.max(...heights) - Math.min(...heights);
  if (range <= MOST_MM + TOLERANCE) return [];
  return [
    {
      subject: { kind: 'fact', id: 'bed_map' },
      what: `The map carries ${range.toFixed(2)} mm.`,
      why: 'Tram the plate by its screws first and map second: what a map takes out is printed slanted.',
      evidence: [
        `from ${Math.min(...heights)} to ${Math.max(...heights)} mm`,
        `should be at most ${MOST_MM} mm`,
      ],
    },
  ];
}

function afterHoming(_facts: Facts, settings: Settings): Spoken[] {
  const rule = settings.get('map.after-home')?.value;
  if (!mapped(settings) || rule !== 'left-off') return [];
  return [
    {
      subject: aboutSetting('map.after-home'),
      what: 'Homing drops the map, and nothing takes it up again.',
      why: 'Every print homes first, so the map would never act. Restore the stored map, or probe afresh each time.',
      evidence: [asSet(settings, 'map.on'), asSet(settings, 'map.after-home')],
      remedies: resetRemedy(settings, 'map.after-home'),
    },
  ];
}

function fade(_facts: Facts, settings: Settings): Spoken[] {
  const at = numberOf(settings, 'map.fade');
  if (!mapped(settings) || at === 0 || at >= FADE_FROM_MM - TOLERANCE) return [];
  return [
    {
      subject: aboutSetting('map.fade'),
      what: `The map fades out at ${at} mm, within the first layers.`,
      why: 'Walls would lean where the plate is not flat. Let it fade over 10 mm, or not at all (0).',
      evidence: [asSet(settings, 'map.fade', 'mm')],
      remedies: [
        { label: 'Fade over 10 mm', edits: [overrideEdit('map.fade', 10, 'more than the first layers')] },
      ],
    },
  ];
}

/** What the reader of start G-code says, under one of its ids. */
function startCode(id: StartProblem['id']): Check['run'] {
  return (facts, settings) => {
    const code = facts.machine.slicer?.start;
    return code === undefined
      ? []
      : readStartCode(code, facts, settings)
          .filter((problem) => problem.id === id)
          .map(({ line, text, what, why }) => ({
            subject: { kind: 'fact', id: 'slicer.start' },
            what:
              line > 0
                ? `Start G-code, line ${line}: ${what.replace(/^(It|The|After|No) /, (word) => word.toLowerCase())}`
                : `Start G-code: ${what}`,
            why,
            evidence: [line > 0 ? `line ${line}: ${text}` : `${code.split('\n').length} lines read`],
          }));
  };
}

export const mapChecks: Check[] = [
  { id: 'map.outside-reach', severity: 'stop', run: outsideReach },
  { id: 'map.on-clip', severity: 'stop', run: onClip },
  { id: 'start.over-limit', severity: 'stop', run: startCode('start.over-limit') },
  { id: 'start.outside', severity: 'stop', run: startCode('start.outside') },
  { id: 'start.no-home', severity: 'mend', run: startCode('start.no-home') },
  { id: 'start.not-known', severity: 'mend', run: startCode('start.not-known') },
  { id: 'start.cold', severity: 'mend', run: startCode('start.cold') },
  { id: 'map.start-code', severity: 'mend', run: startCode('map.start-code') },
  { id: 'map.after-homing', severity: 'mend', run: afterHoming },
  { id: 'map.fade', severity: 'mend', run: fade },
  { id: 'map.no-centre', severity: 'note', run: noCentre },
  { id: 'map.too-much', severity: 'note', run: tooMuch },
];
