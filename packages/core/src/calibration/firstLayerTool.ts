import { type Answer, askAll, type Choice, choose, type Procedure, show, tell } from '../bringup/procedure';
import { type Facts, partsOf } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { STRIP_LAYER_MM, stripLines, stripPlaces } from '../slicer/stripPattern';
import {
  type CalibrationTool,
  choiceIn,
  endedBy,
  type Found,
  found,
  missingOf,
  round,
  signed,
} from './calibrationTool';
import type { Strands } from './feel';
import { onBoard, setsLine } from './boardSetting';
import { givingNudgeBack } from './givingBack';
import { homeAll, temperatures, warmUp } from './warmUp';

/** What each look at the strands asks for, mm: hundredths, never a leap. */
const NUDGE_MM: Readonly<Record<Strands, number>> = { apart: -0.02, merge: 0, ridges: 0.02, scraped: 0.05 };
/** No nudge goes further than this from where it began, mm. */
const MOST_MM = 0.5;
const MOST_STRIPS = 14;

const LIE: readonly (Choice & { id: Strands })[] = [
  { id: 'merge', label: 'They merge into one smooth skin', keys: ['Enter', ' '] },
  { id: 'apart', label: 'They lie apart: gaps show', keys: ['-', 'ArrowDown'] },
  { id: 'ridges', label: 'They are pushed up into ridges', keys: ['+', 'ArrowUp'] },
  { id: 'scraped', label: 'They are scraped thin, or nothing comes out' },
];

/** The first layer as it is printed: strips, each judged and the next nudged by hundredths, until the strands merge twice. */
export function firstLayerTool(facts: Facts, settings: Settings): CalibrationTool {
  const probe = partsOf(facts, 'probe')[0] !== undefined;
  const missing = missingOf(facts, settings, ['nudge']);
  const tool: CalibrationTool = {
    id: 'first-layer',
    title: 'First layer',
    what: 'The last hundredths, by what is printed. The offset brings the nozzle to the plate; the strands say whether it is the height your plate and plastic like.',
    toHand: ['Filament in the hot end, feeding freely', 'A clean plate', 'Light from the side, or a finger once the strip is cold'],
    caution: 'It prints: hot nozzle, warm plate, moving head. Stay with it, and stop it when the nozzle scrapes the plate.',
    choosing: [
      ...temperatures(facts, settings, true),
      ...(probe
        ? [
            {
              key: 'keep',
              label: 'What was found is kept',
              value: 'offset',
              choices: [
                { id: 'offset', label: 'in the Z offset of the probe; the nudge is 0 again' },
                { id: 'nudge', label: 'as a nudge beside the offset' },
              ],
              help: 'In the offset it is one number; as a nudge, another plate or plastic can have another.',
            },
          ]
        : []),
    ],
    after: ['home', 'heat-hotend', 'motor-e'],
    ...(missing && { missing }),
    *run(chosen) {
      const ended = (yield* warmUp(tool, chosen)) ?? (yield* homeAll());
      if (ended) return endedBy(ended);
      const inOffset = probe && choiceIn(tool, chosen, 'keep') === 'offset';
      const { 'probe.offset.z': had } = yield* onBoard(facts.kit, settings, ['probe.offset.z']);
      return yield* givingNudgeBack(facts, settings, function* (before) {
        const result = yield* strips(facts, settings, before);
        return 'ended' in result ? endedBy(result.ended) : judged(facts, result, { before, inOffset, had });
      });
    },
  };
  return tool;
} // prettier-ignore

interface Strip {
  nudgeMm: number;
  strands?: Strands;
}

function* strips(facts: Facts, settings: Settings, before: number): Procedure<{ strips: Strip[] } | { ended: Answer }> {
  const places = stripPlaces(facts, settings, MOST_STRIPS);
  const done: Strip[] = [];
  let nudge = before;
  for (const place of places) {
    yield* tell(`Strip ${done.length + 1}, nudged by ${signed(nudge, 2)} mm.`);
    yield* show({ kind: 'strips', strips: [...done, { nudgeMm: nudge }] });
    const printed = yield* askAll([`nudge z=${nudge}`, ...stripLines(place), 'M400']);
    if (printed) return { ended: printed };
    const seen = yield* choose({ text: 'How do the strands of this strip lie?', about: 'strands', choices: LIE });
    if ('ended' in seen) return seen;
    // One of the choices above.
    const strands = seen.chosen as Strands;
    done.push({ nudgeMm: nudge, strands });
    yield* show({ kind: 'strips', strips: done });
    if (strands === 'merge' && done.at(-2)?.strands === 'merge') return { strips: done };
    nudge = round(nudge + NUDGE_MM[strands], 3);
    if (Math.abs(nudge - before) > MOST_MM + 1e-9)
      return { ended: { lines: [], problem: `error: ${MOST_MM} mm of nudge are not enough; measure the Z offset by shim first` } };
  }
  return { strips: done };
} // prettier-ignore

function judged(
  { kit }: Facts,
  { strips: done }: { strips: readonly Strip[] },
  { before, inOffset, had }: { before: number; inOffset: boolean; had: number },
): Found {
  const last = done.at(-1);
  const nudge = last?.nudgeMm ?? before;
  const evidence = done.map(({ nudgeMm, strands }) => `nudge ${signed(nudgeMm, 2)} mm: ${strands}`);
  const picture = { kind: 'strips', strips: done } as const;
  if (last?.strands !== 'merge')
    return found(`${done.length} strips, and no two in a row merge. Nothing was set.`, { evidence, picture, causes: [{ cause: 'The plate is not level under all of it', look: 'Tram it, take the map, and print with the map in use.' }, { cause: 'Plastic does not stick', look: 'Clean the plate, and warm it as the plastic wants.' }] }, 'poor');
  const nudged = { label: 'First layer, nudged by', value: nudge, unit: 'mm' };
  const flat = `The strands merge at a nudge of ${signed(nudge, 2)} mm, for a layer of ${STRIP_LAYER_MM} mm.`;
  if (!inOffset)
    return found(`${flat} The nudge is to keep it.`, { evidence, figures: [{ ...nudged, id: 'nudge-start', label: 'Nudge for the first layer' }], picture, values: [{ key: 'nudge.start', value: nudge, because: 'strands merged at it' }], lines: [setsLine(kit, { 'nudge.start': nudge })] });
  const value = round(had + nudge, 3);
  return found(`${flat} ${nudge === 0 ? `The offset of ${had} mm stays.` : `The offset takes it over: ${value} mm instead of ${had} mm, and the nudge is 0.`}`, {
    evidence,
    figures: [{ id: 'nudge', ...nudged }, { id: 'offset-z', label: 'Z offset', value, unit: 'mm' }],
    picture,
    values: [
      { key: 'probe.offset.z', value, because: 'strands of the first layer merged at it' },
      { key: 'nudge.start', value: 0, because: 'what was nudged is part of the offset' },
    ],
    lines: [setsLine(kit, { 'nudge.start': 0 }), setsLine(kit, { 'probe.offset.z': value })],
  });
} // prettier-ignore
