import { keysOf } from '../tree/keysOf';
import type { Board } from '../board/board';
import { holesFit, type HolesFit } from '../board/holesFit';
import { headerOf } from '../board/contacts';
import type { Facts } from '../machine/facts';
import { sameBoard, samePart } from '../machine/same';
import { sameValue } from '../tree/sameValue';
import { jumperPlan, type JumperWish } from './jumperPlan';
import { wallPlugs } from './leadWork';
import { adapterOf } from '../circuit/loads';
import { mainHeader } from './purposes';
import { adapterBoardWork } from './ribbonWork';

/** When a step has its turn; leads come between `supply` and `run`, those beside a ribbon after `ribbon`. */
export const STEP_TURNS = ['mount', 'jumpers', 'supply', 'sinks', 'ribbon', 'run', 'close'] as const;
export type StepTurn = (typeof STEP_TURNS)[number];

/** A step of a swap that is no lead: board, jumpers, main supply, heat sinks, adapter boards, cable run, cover. */
export interface HandStep {
  /** Its own name within the swap. */
  id: string;
  turn: StepTurn;
  title: string;
  acts: string[];
  /** The hazard, then the act. */
  cautions: string[];
}

/** How far holes may be off and screws still go in, millimetres. */
const HOLE_SLACK_MM = 0.6;

const fits = new WeakMap<Board, WeakMap<Board, HolesFit>>();

/** Whether the new board sits on the posts of the old one. Computed once a pair of boards. */
export function boardsFit(
  { board: a }: Pick<Facts, 'board'>,
  { board: b }: Pick<Facts, 'board'>,
): HolesFit | undefined {
  if (a.holes_mm.length === 0 || b.holes_mm.length === 0) return undefined;
  const ofA = fits.get(a) ?? new WeakMap<Board, HolesFit>();
  fits.set(a, ofA);
  const fit = ofA.get(b) ?? holesFit.ofChecked({ a: a.holes_mm, b: b.holes_mm, tolMm: HOLE_SLACK_MM });
  ofA.set(b, fit);
  return fit;
}

/** Every step beside the leads, in working order; none when nothing is rewired. */
export function handSteps(before: Facts, after: Facts): HandStep[] {
  const swap = !sameBoard(before.machine, after.machine);
  const rewired = swap || !sameValue(before.machine.harness, after.machine.harness);
  const modules = after.parts.some((part) => {
    const old = before.parts.find(({ id }) => id === part.id);
    const seated = swap || !old || !samePart(old, part);
    return part.type.kind === 'driver' && seated && after.board.drivers === 'plugged in';
  });
  const found = [
    ...(swap ? [mount(before, after)] : []),
    ...jumperSteps(before, after, swap),
    ...(swap ? mainSupply(before, after) : []),
    ...(modules ? [sinks()] : []),
    ...adapterBoards(before, after, swap),
    ...(rewired ? [run(after)] : []),
    ...(swap ? [close(after)] : []),
  ];
  return STEP_TURNS.flatMap((turn) => found.filter((step) => step.turn === turn));
}

const tapped = ({ parts }: Facts) =>
  new Set(
    parts.flatMap(({ landing }) =>
      landing && 'leads' in landing ? (adapterOf(landing, 'tap')?.header ?? []) : [],
    ),
  );

/** One board in a ribbon serves every lead that is brought out there. */
function adapterBoards(before: Facts, after: Facts, swap: boolean): HandStep[] {
  const there = swap ? new Set<string>() : tapped(before);
  return [...tapped(after)].flatMap((header) => {
    const work = there.has(header) ? undefined : adapterBoardWork(after.board, header);
    return work
      ? [
          {
            id: `ribbon-${header}`,
            turn: 'ribbon' as const,
            title: `Adapter board between the ribbon and ${header}`,
            acts: work.tasks,
            cautions: work.cautions,
          },
        ]
      : [];
  });
}

function mount(before: Facts, after: Facts): HandStep {
  const fit = boardsFit(before, after);
  const all = after.board.holes_mm.length;
  const how = !fit
    ? 'Its holes are not known: try it on the posts before any lead.'
    : fit.verdict === 'fits'
      ? `Its holes fit the posts of the ${before.board.name}${fit.rotation ? `, turned by ${fit.rotation}°` : ''}.`
      : fit.verdict === 'partly'
        ? `${fit.matched.length} of its ${all} holes fit the posts of the ${before.board.name}; make a carrier plate or new posts for the rest.`
        : `Its holes do not fit the posts of the ${before.board.name}: make a carrier plate first.`;
  return {
    id: 'mount',
    turn: 'mount',
    title: `Fix the ${after.board.name} in its place`,
    acts: [
      how,
      'Nothing of metal may touch its underside.',
      ...wallPlugs(after).map(
        ({ header, side, parts }) =>
          `${header} takes its plug from the ${side}, where a wall is: plug ${parts.join(', ')} in before the board goes down, or turn the board.`,
      ),
    ],
    cautions: ['A spark of your own kills the chip: touch ground before you touch the board.'],
  };
}

const JUMPER_TITLES: Record<JumperWish['jumper']['sets'], string> = {
  'usb power': 'what the logic runs from',
  'fan voltage': 'fan voltage',
  'driver mode': 'driver mode',
  'stall line': 'stall lines',
};

function jumperSteps(before: Facts, after: Facts, swap: boolean): HandStep[] {
  const was = new Map(swap ? [] : jumperPlan(before).map(({ jumper, position }) => [jumper.id, position.id]));
  const wishes = jumperPlan(after).filter(
    ({ jumper, position }) => swap || was.get(jumper.id) !== position.id,
  );
  return keysOf(JUMPER_TITLES).flatMap((sets) => {
    const list = wishes.filter(({ jumper }) => jumper.sets === sets);
    if (list.length === 0) return [];
    const hidden = list.some(({ jumper }) => jumper.under_module);
    return [
      {
        id: `jumpers-${sets.replace(' ', '-')}`,
        turn: 'jumpers' as const,
        title: `Set jumpers: ${JUMPER_TITLES[sets]}`,
        acts: byPosition(list),
        cautions: hidden ? ['They are hidden once the modules are in: set them first.'] : [],
      },
    ];
  });
}

/** `MODE-1, MODE-2: bridged, serial line to the module (Hush Wire is told over a serial line).` */
function byPosition(list: readonly JumperWish[]): string[] {
  const groups = new Map<string, string[]>();
  for (const { jumper, position, because } of list) {
    const words = `${position.id}, ${position.means} (${because})`;
    groups.set(words, [...(groups.get(words) ?? []), jumper.id]);
  }
  return [...groups].map(([words, ids]) => `${ids.join(', ')}: ${words}.`);
}

function mainSupply(before: Facts, after: Facts): HandStep[] {
  const header = mainHeader(after);
  if (!header) return [];
  const place = (net: string) => `${header.id}.${header.contacts.indexOf(net) + 1}`;
  const old = mainHeader(before);
  return [
    {
      id: 'main-supply',
      turn: 'supply',
      title: `Main supply to ${header.id}, not switched on`,
      acts: [
        `Plus to ${place('vin')}, minus to ${place('gnd')}.`,
        ...(old && old.contacts.join() !== header.contacts.join()
          ? [
              `On the ${before.board.name} plus was at ${old.id}.${old.contacts.indexOf('vin') + 1}: the order is the other way round here.`,
            ]
          : []),
        ...(header.first_because ? [`Before the rest, because ${header.first_because}.`] : []),
        'End sleeves, never tinned wire; pull at each wire once it is tight.',
      ],
      cautions: [
        'A reversed supply burns the board at once: follow each wire back to the supply, then meter it.',
        'Mains at the supply kills: follow local codes and leave its mains side to a qualified electrician.',
      ],
    },
  ];
}

const sinks = (): HandStep => ({
  id: 'heat-sinks',
  turn: 'sinks',
  title: 'A heat sink on every module',
  acts: ['Stick one on each driver, clear of its pins and of the next one.'],
  cautions: ['A bare driver overheats and drops steps: no power before they are on.'],
});

function run(after: Facts): HandStep {
  return {
    id: 'cable-run',
    turn: 'run',
    title: 'Cable run and strain relief at full travel',
    acts: [
      'Move every axis by hand to both ends and to full height: nothing taut, rubbing or caught.',
      'Tie each cable down where it enters and where it leaves, so that no plug carries weight.',
      ...(after.machine.bay
        ? []
        : ['Where cables come in is not told yet; tell it under Electricity to have lengths checked.']),
    ],
    cautions: [],
  };
}

function close(after: Facts): HandStep {
  const fan = after.parts.find((part) => part.type.kind === 'fan' && part.role === 'board');
  const header =
    fan?.landing && 'leads' in fan.landing
      ? headerOf(after.board, Object.values(fan.landing.leads)[0] ?? '')
      : undefined;
  return {
    id: 'close',
    turn: 'close',
    title: 'Close up after Bring-up',
    acts: [
      fan
        ? `Plug the cover fan in${header ? ` at ${header.id}` : ''}.`
        : 'If the cover carries a fan, plug it in.',
      'The right screws in the right holes; tighten the screw terminals once more.',
    ],
    cautions: ['A pinched lead shorts: look along every edge of the cover before you screw it down.'],
  };
}
