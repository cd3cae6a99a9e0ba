import type { Board } from '../board/board';
import { picksSupply } from '../board/picksSupply';
import { ask, askAll, type Choice, ended, type Run, see, tell } from '../bringup/procedure';
import { type Facts, partFor, partsOf } from '../machine/facts';
import { type Extruder, extrudersOf } from '../machine/extruders';
import { AXES, type MotorAxis } from '../machine/machine';
import { numberOf, type Settings } from '../settings/setting';
import { HUMS, NOTHING_MOVED, wayInWords, waysOf } from '../settings/ways';
import { heatLine } from '../bringup/heatLines';
import { bodyCalled } from '../machine/bodyCalled';
import { moveBy } from './moves';
import { has, type PossibleCause, possibleOn } from './possibleOn';
import { type Cause, found, type Proof, proof, proofBySight, proven } from './proof';

/** A small move of each axis: how far in mm, how fast in mm/min. Unhomed, a board allows 10 mm. */
const MOVES: Readonly<Record<MotorAxis, { mm: number; feed: number }>> = {
  x: { mm: 10, feed: 600 },
  y: { mm: 10, feed: 600 },
  z: { mm: 5, feed: 300 },
  e: { mm: 10, feed: 120 },
};
/** So much above the least temperature filament is fed at. */
const WELL_ABOVE_C = 10;

type Causes = Readonly<Record<string, readonly PossibleCause[]>>;
const PLUG_OUT: Cause = { cause: 'The plug is out or a crimp is empty', look: 'Measure through each winding at the plug: a few ohms.' }; // prettier-ignore
/** Why a driver gives nothing: a module can sit wrong, a soldered one cannot. */
const NOTHING: Readonly<Record<Board['drivers'], readonly Cause[]>> = {
  'plugged in': [{ cause: 'The driver gives nothing: module reversed, no supply, far too little current', look: 'Supply off. Look at the module’s turn, its jumpers, its pot.', at: 'wiring' }, PLUG_OUT],
  soldered: [{ cause: 'The driver gives nothing: no supply, far too little current, or it is gone', look: 'Is the supply on, not USB alone? Read its current beside its label.', at: 'settings' }, PLUG_OUT],
}; // prettier-ignore
const SUPPLY_OFF: PossibleCause = { cause: 'The supply is off: USB alone moves no motor', look: 'Look at its lamp, where it has one, and measure at the board’s terminal.', when: ({ board }) => picksSupply(board) }; // prettier-ignore
const CAUSES: Causes = {
  reversed: [
    { cause: 'Its direction is the other one', look: 'Tell the directions doctor what you saw: it says which fact to change.', at: 'settings' },
    { cause: 'Its plug is turned', look: 'Compare the plug with the swap sheet, with the supply off.', at: 'wiring' },
  ],
  other: [
    { cause: 'Two motor plugs are exchanged', look: 'Compare both sockets with the swap sheet, with the supply off.', at: 'wiring', when: has('motor', 2) },
    { cause: 'Two motors share the belt and one turns the wrong way', look: 'Tell the directions doctor both moves.', at: 'settings', when: ({ machine }) => machine.frame.kinematics === 'cross-belt' },
  ],
  hums: [
    { cause: 'The windings are crossed', look: 'Supply off. Measure which two wires of its plug belong together; they sit side by side.', at: 'wiring' },
    { cause: 'One winding is open', look: 'Supply off. Measure through each winding at the plug: a few ohms.' },
    { cause: 'Far too little current for what it has to move', look: 'Read its current beside its label, and turn the axis by hand: it goes lightly.', at: 'settings' },
  ],
}; // prettier-ignore
const nothingOn = ({ board }: Facts): Causes => ({ nothing: [...NOTHING[board.drivers], SUPPLY_OFF] });
const causesOn = (facts: Facts) => possibleOn(facts, { ...CAUSES, ...nothingOn(facts) });

/** A second extruder has a direction of its own. */
const SECOND_REVERSED: Causes = {
  reversed: [
    { cause: 'Its motor is mounted the other way round than the first extruder’s', look: 'Set “Second extruder reversed” to the other value.', at: 'settings' },
    { cause: 'Its plug is turned', look: 'Compare the plug with the swap sheet, with the supply off.', at: 'wiring' },
  ],
}; // prettier-ignore

const nameOf = (axis: MotorAxis) => (axis === 'e' ? 'Extruder' : axis.toUpperCase());

/** Each motor alone, and two that carry one axis. */
export function motorProofs(facts: Facts): Proof[] {
  const withMotor = AXES.filter((axis) => partFor(facts, 'motor', axis));
  const pair = partsOf(facts, 'motor').filter(({ role }) => role === 'z').length > 1;
  return [...withMotor.map((axis) => motorProof(facts, axis)), ...(pair ? [pairProof(facts)] : [])];
}

/** The extruders' motors, at a temperature at which filament goes through; each proven after its heater. */
export const extruderProofs = (facts: Facts, settings: Settings): Proof[] =>
  extrudersOf(facts)
    .filter(({ hotend }) => partFor(facts, 'heater', hotend))
    .map((extruder) => extruderProof(extruder, facts, settings));

function motorProof(facts: Facts, axis: MotorAxis): Proof {
  const { mm, feed } = MOVES[axis];
  const name = nameOf(axis);
  const crossBelt = facts.machine.frame.kinematics === 'cross-belt';
  return proof(
    {
      id: `motor-${axis}`,
      title: `${name} moves the way it is asked`,
      act: `With ${name} about the middle of its travel, ask for ${mm} mm towards plus and say which way the nozzle went against the plate.`,
      caution: 'Moving axes pinch, and a reversed one runs into the frame. Keep a hand on the stop and fingers off belts.',
      restsOn: ['board', `driver.${axis}`, `motor.${axis}`, `axis.${axis}`, `plug.${axis}`, 'supply', ...(crossBelt ? ['plug.*', 'driver.*'] : [])],
      after: ['identity'],
      causes: causesOn(facts),
    },
    () => moveAndLook(axis, [`G1 ${axis.toUpperCase()}${mm} F${feed}`], crossBelt),
    (moved) => judgeMove(axis, moved),
  );
} // prettier-ignore

function judgeMove(axis: MotorAxis, moved: string) {
  const evidence = [`asked for ${wayInWords(`+${axis}`)}`, `you saw: ${wayInWords(moved)}`];
  if (moved === `+${axis}`) return proven(...evidence);
  if (moved === NOTHING_MOVED || moved === HUMS) return found(moved, ...evidence);
  return found(moved === `-${axis}` ? 'reversed' : 'other', ...evidence);
}

/** Makes a small move from here and asks which way it went. */
function* moveAndLook(axis: MotorAxis, moves: string[], crossBelt: boolean): Run<string> {
  yield* tell('It moves now. Watch which way.');
  const problem = yield* moveBy(...moves);
  if (problem) return ended(problem);
  return yield* see({
    text: 'Which way did it go?',
    about: 'place',
    choices: [...waysOf(`+${axis}`, crossBelt), HUMS, NOTHING_MOVED].map((id) => ({
      id,
      label: wayInWords(id),
    })),
  });
}

function extruderProof({ axis, name, tool, hotend }: Extruder, facts: Facts, settings: Settings): Proof {
  const called = bodyCalled(hotend);
  const c = Math.round(numberOf(settings, 'extrude.from') + WELL_ABOVE_C);
  const { mm, feed } = MOVES.e;
  return proof(
    {
      id: `motor-${axis}`,
      title: `${name} feeds the way it is asked`,
      act: `Heat the ${called} to ${c} °C, with filament in the drive, ask for ${mm} mm, and say whether it went in.`,
      caution: 'The hot end burns fingers. Keep them off it, and off the gears.',
      restsOn: ['board', ...['driver', 'motor', 'axis', 'plug'].map((fact) => `${fact}.${axis}`), `heater.${hotend}`, 'supply'],
      after: [`heat-${hotend}`],
      causes: { ...causesOn(facts), ...(tool === 'T1' && SECOND_REVERSED) },
    },
    function* () {
      const chosen = tool === undefined ? undefined : yield* askAll([tool]);
      const result = chosen ? ended(chosen) : yield* warmAndMove(c, called, [`G1 E${mm} F${feed}`]);
      yield* ask(heatLine(hotend, 0));
      // The first one feeds again, as after a start.
      if (tool === 'T1') yield* ask('T0');
      return result;
    },
    (moved) => judgeMove('e', moved),
  ); // prettier-ignore
}

function* warmAndMove(c: number, hotend: string, moves: string[]): Run<string> {
  yield* tell(`The ${hotend} warms to ${c} °C.`);
  const problem = yield* askAll([`M109 S${c}`, 'M83']);
  return problem ? ended(problem) : yield* moveAndLook('e', moves, false);
}

const ALIKE: readonly Choice[] = [
  { id: 'alike', label: 'Both turned alike' },
  { id: 'one', label: 'One stood' },
  { id: 'against', label: 'They turned against each other' },
  { id: 'none', label: 'Neither turned' },
];

const pairProof = (facts: Facts): Proof => proofBySight(
  {
    id: 'motor-z-pair',
    title: 'Both Z motors turn alike',
    act: 'Ask for a small Z move and watch both screws: the same way, as far.',
    caution: 'Screws that turn against each other bend the gantry. Stop at the first wrong turn.',
    restsOn: ['board', 'driver.z', 'motor.z', 'plug.z', 'axis.z', 'supply'],
    after: ['motor-z'],
    causes: {
      one: [
        { cause: 'Its plug is out, or its socket gives nothing', look: 'Measure through its windings at the plug; look at its driver.', at: 'wiring' },
        { cause: 'Its windings are crossed', look: 'Measure which wires belong together.', at: 'wiring' },
      ],
      against: [{ cause: 'One of the two plugs is turned', look: 'Turn one plug, with the supply off.', at: 'wiring' }],
      none: causesOn(facts)['nothing'] ?? [],
    },
  },
  ALIKE,
  function* () {
    yield* tell('Z moves now. Watch both screws.');
    const problem = yield* moveBy('G1 Z5 F300');
    return problem ? ended(problem) : yield* see({ text: 'What did the two screws do?', about: 'z-pair', choices: ALIKE });
  },
); // prettier-ignore
