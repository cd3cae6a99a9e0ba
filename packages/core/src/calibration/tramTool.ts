import { type Answer, ask, askAll, choose, type Procedure, replies, show } from '../bringup/procedure';
import { type Facts, partsOf } from '../machine/facts';
import type { PlateScrews } from '../machine/machine';
import type { Heights } from '../plate/heights';
import { type ScrewTurn, screwTurns } from '../plate/screwTurns';
import { numberOf, type Settings, spanOf } from '../settings/setting';
import {
  type CalibrationTool,
  choiceIn,
  type Chosen,
  endedBy,
  type Found,
  found,
  missingOf,
  numberIn,
  round,
} from './calibrationTool';
import { descend, FINEST_MM } from './descend';
import { ABOVE_MM, SHIM } from './shimRuns';
import { givingNudgeBack } from './givingBack';
import { bare, homeAll, lift, temperatures, warmUp } from './warmUp';

/** Screws that lift no more than this are level enough, mm. */
export const LEVEL_MM = 0.1;
const MOST_ROUNDS = 8;
/** As Lantern's corner helper: so far from the edges of the plate, mm; see bed/tram.c. */
export const INSET_MM = 30;
const CORNERS = [['low', 'low'], ['high', 'low'], ['high', 'high'], ['low', 'high']] as const; // prettier-ignore

/** Where screws usually stand, by how many there are: inset from the corners of the plate. */
export const USUAL_SCREWS: readonly { id: string; label: string; at: readonly (readonly [id: string, across: number, back: number])[] }[] = [
  { id: 'four', label: 'four, one below each corner', at: [['front left', 0, 0], ['front right', 1, 0], ['back right', 1, 1], ['back left', 0, 1]] },
  { id: 'two-front', label: 'three, two of them in front', at: [['front left', 0, 0], ['front right', 1, 0], ['back', 0.5, 1]] },
  { id: 'two-back', label: 'three, two of them behind', at: [['front', 0.5, 0], ['back right', 1, 1], ['back left', 0, 1]] },
]; // prettier-ignore

/** The plate levelled by its screws, heights measured by the probe or felt by a shim, until no screw lifts more than 0.1 mm. */
export function tramTool(facts: Facts, settings: Settings): CalibrationTool {
  const described = facts.machine.frame.screws;
  const byProbe = partsOf(facts, 'probe')[0] !== undefined && missingOf(facts, settings, ['tram']) === undefined;
  const tool: CalibrationTool = {
    id: 'tram',
    title: 'Tram the plate by its screws',
    what: 'Brings the plate level with what the head moves along. Do it before the map: a map should not carry what screws can. Again after a job on plate, frame or Z.',
    toHand: ['A key or fingers for the screws', byProbe ? 'The plate warm and clean' : 'The plate warm and clean, the nozzle clean', ...(byProbe ? [] : ['A shim, its thickness known: every corner is felt'])],
    caution: 'The head moves over the plate, and both are warm; for a shim the nozzle is lowered onto it. Reach below the plate only while it asks you to, and keep your fingers to the edge of the shim.',
    choosing: [
      ...temperatures(facts, settings),
      ...(byProbe
        ? [{ key: 'by', label: 'Heights are found', value: 'probe', choices: [{ id: 'probe', label: 'by the probe' }, { id: 'shim', label: 'by hand, with a shim at each corner' }] }]
        : []),
      { ...SHIM, ...(byProbe && { help: 'Only by hand.' }) },
      ...(described
        ? []
        : [
            {
              key: 'screws',
              label: 'It stands on',
              value: 'four',
              choices: USUAL_SCREWS.map(({ id, label }) => ({ id, label })),
            },
            { key: 'insetMm', label: 'They stand in from its edges by', unit: 'mm', range: [0, 100] as const, value: 20 },
            { key: 'pitchMm', label: 'A full turn raises by', unit: 'mm', range: [0.1, 3] as const, value: 0.7, help: 'The pitch of an M4 screw is 0.7 mm, of an M3 0.5 mm.' },
            {
              key: 'raises',
              label: 'Seen from above, it rises turned',
              value: 'unknown',
              choices: [
                { id: 'unknown', label: 'nobody has looked' },
                { id: 'clockwise', label: 'clockwise' },
                { id: 'anticlockwise', label: 'anticlockwise' },
              ],
            },
          ]),
    ],
    after: ['home', ...(byProbe ? ['probe'] : [])],
    *run(chosen) {
      const screws = described ?? screwsOf(facts, tool, chosen);
      const warm = yield* warmUp(tool, chosen);
      if (warm) return endedBy(warm);
      const touching = byProbe && choiceIn(tool, chosen, 'by') === 'probe';
      const shimMm = numberIn(tool, chosen, 'shimMm');
      const lifts = !touching && missingOf(facts, settings, ['limits off']) === undefined;
      const measure = () => (touching ? corners(facts, settings) : cornersByShim(facts, settings, { shimMm, lifts }));
      const result = yield* givingNudgeBack(facts, settings, () => untilLevel(measure, screws));
      yield* lift();
      if (lifts) yield* askAll(['limits on']);
      if ('ended' in result) return endedBy(result.ended);
      return judged(result, screws, { fresh: described === undefined, finestMm: touching ? TOUCH_MM : FINEST_MM });
    },
  };
  return tool;
} // prettier-ignore

/** The screws of a usual plate, as they were chosen. */
function screwsOf(facts: Facts, tool: CalibrationTool, chosen: Chosen): PlateScrews {
  const { x, y } = facts.machine.frame.bed_mm;
  const inset = numberIn(tool, chosen, 'insetMm');
  const between = ([low, high]: readonly [number, number], share: number) =>
    round(low + inset + share * (high - low - 2 * inset), 1);
  const kind = USUAL_SCREWS.find(({ id }) => id === choiceIn(tool, chosen, 'screws')) ?? USUAL_SCREWS[0];
  const raises = choiceIn(tool, chosen, 'raises');
  return {
    at: (kind?.at ?? []).map(([id, across, back]) => ({ id, x: between(x, across), y: between(y, back) })),
    pitch_mm: numberIn(tool, chosen, 'pitchMm'),
    ...((raises === 'clockwise' || raises === 'anticlockwise') && { raises }),
  };
}

/** Heights by the probe are told apart from about here, mm. */
const TOUCH_MM = 0.01;

interface Round {
  map: Heights;
  turns: ScrewTurn[];
}
const worstOf = ({ turns }: Round): number => Math.max(...turns.map(({ mm }) => mm));

/** Measures, says what to turn, and measures again, until the screws are level or the person leaves it. */
function* untilLevel(
  corners: () => Procedure<{ map: Heights } | { ended: Answer }>,
  screws: PlateScrews,
): Procedure<{ rounds: Round[] } | { ended: Answer }> {
  const rounds: Round[] = [];
  for (;;) {
    const measured = yield* corners();
    if ('ended' in measured) return measured;
    const now: Round = { map: measured.map, turns: turnsFor(measured.map, screws) };
    rounds.push(now);
    yield* show({ kind: 'screws', turns: now.turns, screws: screws.at, round: rounds.length });
    if (worstOf(now) <= LEVEL_MM + 1e-9 || rounds.length === MOST_ROUNDS) return { rounds };
    yield* lift();
    const turned = yield* choose({
      text: `Turn ${now.turns.filter(({ move }) => move !== 'leave').map(turnInWords).join('; ')}.`,
      about: 'screws',
      choices: [
        { id: 'turned', label: 'They are turned', keys: ['Enter', ' '] },
        { id: 'leave', label: 'Leave it so' },
      ],
      screws: toTurn(now, screws),
    });
    if ('ended' in turned) return turned;
    if (turned.chosen === 'leave') return { rounds };
  }
} // prettier-ignore

/** How far up each screw is to go, mm; none stays out, so that all of them hold the plate. */
const toTurn = ({ turns }: Round, { at }: PlateScrews) =>
  at.map(({ id, x, y }) => {
    const turn = turns.find((one) => one.id === id);
    const up = turn === undefined || turn.move === 'leave' ? 0 : turn.move === 'raise' ? turn.mm : -turn.mm;
    return { id, x, y, up };
  });

/** The turns that come level with the screw that lies in the middle of all, so that none is turned far. */
export function turnsFor(map: Heights, { at, pitch_mm: pitchMm, raises }: PlateScrews): ScrewTurn[] {
  const all = (reference: string) =>
    screwTurns.ofChecked({ ...map, screws: at, pitchMm, reference, ...(raises && { raises }) });
  const ways = at.map(({ id }) => all(id));
  const most = (turns: readonly ScrewTurn[]) => Math.max(...turns.map(({ mm }) => mm));
  return ways.reduce((best, turns) => (most(turns) < most(best) - 1e-9 ? turns : best));
}

/** Eighths of a turn are as fine as fingers turn. */
export function turnInWords({ id, mm, turns, move, rotate }: ScrewTurn): string {
  const eighths = Math.round(turns * 8);
  const much = eighths === 0 ? 'a hair' : eighths % 8 === 0 ? `${eighths / 8} turn${eighths === 8 ? '' : 's'}` : `${Math.floor(eighths / 8) || ''} ${['', '⅛', '¼', '⅜', '½', '⅝', '¾', '⅞'][eighths % 8]} turn`.trim(); // prettier-ignore
  return `${id} ${rotate ?? (move === 'raise' ? 'up' : 'down')} by ${much} (${move === 'raise' ? 'up' : 'down'} ${mm.toFixed(2)} mm)`;
}

/** The heights of the four corners, as far as the probe reaches them. */
function* corners(facts: Facts, settings: Settings): Procedure<{ map: Heights } | { ended: Answer }> {
  const ended = (yield* homeAll()) ?? (yield* askAll(bare(facts, settings)));
  if (ended) return { ended };
  const z = flat();
  for (const [index, corner] of CORNERS.entries()) {
    const answer = yield* ask(`tram n=${index + 1}`);
    const height = Number(replies(answer, 'tram')[0]?.values['height'] ?? NaN);
    if (answer.problem !== undefined || !Number.isFinite(height))
      return {
        ended: {
          ...answer,
          problem: answer.problem ?? 'error: this image tells no height: it has no probe to touch with',
        },
      };
    z[back(corner)][across(corner)] = height;
  }
  const offset = (axis: 'x' | 'y') => numberOf(settings, `probe.offset.${axis}`);
  return { map: { xs: reached(settings, 'x', offset('x')), ys: reached(settings, 'y', offset('y')), z } };
}

type Corner = (typeof CORNERS)[number];
const across = ([x]: Corner): 0 | 1 => (x === 'high' ? 1 : 0);
const back = ([, y]: Corner): 0 | 1 => (y === 'high' ? 1 : 0);
const flat = (): [[number, number], [number, number]] => [[0, 0], [0, 0]]; // prettier-ignore

/** The heights of the four corners by hand: at each the nozzle is lowered onto a shim. All are off by the shim alike. */
function* cornersByShim(
  facts: Facts,
  settings: Settings,
  { shimMm, lifts }: { shimMm: number; lifts: boolean },
): Procedure<{ map: Heights } | { ended: Answer }> {
  const ended = (yield* homeAll()) ?? (yield* askAll([...bare(facts, settings), ...(lifts ? ['limits off'] : [])]));
  if (ended) return { ended };
  const [xs, ys] = [reached(settings, 'x', 0), reached(settings, 'y', 0)];
  const z = flat();
  const felt: number[] = [];
  for (const corner of CORNERS) {
    const moved = yield* askAll([`G1 Z${ABOVE_MM} F600`, `G1 X${xs[across(corner)]} Y${ys[back(corner)]} F3000`, 'M400']);
    if (moved) return { ended: moved };
    const down = yield* descend({ shimMm, expectedMm: 0, runs: felt });
    if ('ended' in down) return down;
    felt.push(down.z);
    z[back(corner)][across(corner)] = down.z;
  }
  return { map: { xs, ys, z } };
} // prettier-ignore

/** Where the corners are measured on an axis: as near to them as what measures, so far beside the nozzle, reaches. */
function reached(settings: Settings, axis: 'x' | 'y', offset: number): [number, number] {
  const [low, high] = spanOf(settings, `bed.${axis}`);
  const [from, to] = spanOf(settings, `travel.${axis}`);
  const within = (at: number) => Math.max(from + offset, Math.min(to + offset, at));
  return [within(low + INSET_MM), within(high - INSET_MM)];
}

function judged(
  { rounds }: { rounds: Round[] },
  screws: PlateScrews,
  { fresh, finestMm }: { fresh: boolean; finestMm: number },
): Found {
  const [first, last] = [rounds[0], rounds.at(-1)];
  if (!first || !last) return found('Nothing was measured.', {}, 'ended');
  const [was, is] = [worstOf(first), worstOf(last)];
  const level = is <= LEVEL_MM + 1e-9;
  // No nearer than it was felt.
  const within = Math.max(is, finestMm).toFixed(finestMm < 0.02 ? 2 : 3);
  return found(
    level
      ? `The screws are level within ${within} mm${rounds.length > 1 ? `; they were ${was.toFixed(2)} mm apart` : ''}. What is left is for the map.`
      : `A screw still stands ${is.toFixed(2)} mm off. Level is within ${LEVEL_MM} mm.`,
    {
      evidence: rounds.map((round_, index) => `round ${index + 1}: ${round_.turns.map(({ id, mm, move }) => `${id} ${move} ${mm.toFixed(2)} mm`).join(', ')}`),
      figures: [{ id: 'screws-off', label: 'Farthest screw', value: is, unit: 'mm' }],
      ...(fresh && { edits: [{ path: ['frame', 'screws'], value: screws }] }),
      picture: { kind: 'screws', turns: last.turns, screws: screws.at, round: rounds.length },
      ...(!level && { causes: [{ cause: 'A screw has come to its end, or its spring is slack', look: 'Count its thread: it must hold the plate in both directions.' }, { cause: 'The plate itself is bent, not tilted', look: 'Take the map: it shows what no screw can mend.' }] }),
    },
    level ? 'found' : 'poor',
  );
} // prettier-ignore
