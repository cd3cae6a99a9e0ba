import { askAll, type Choice, ended, type Run, see, tell } from '../bringup/procedure';
import { fanCalled } from '../machine/fanCalled';
import { type Facts, partsOf } from '../machine/facts';
import { servosOf } from '../machine/servos';
import { passedOver } from '../settings/hearing';
import { numberOf, type Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { firstTool, heatLine } from '../bringup/heatLines';
import { type Cause, type Proof, proofBySight } from './proof';

const TURNS: readonly Choice[] = [
  { id: 'well', label: 'It turns well' },
  { id: 'crawls', label: 'It crawls' },
  { id: 'stands', label: 'It stands' },
  { id: 'other', label: 'Something else turns or warms' },
];
const FAN_CAUSES: Readonly<Record<string, readonly Cause[]>> = {
  crawls: [{ cause: 'It gets less than the volts on its label', look: 'Read its label, and measure at its header.', at: 'wiring' }],
  stands: [
    { cause: 'It burnt out at too many volts, or gets too few', look: 'Read its label, and measure at its header.', at: 'wiring' },
    { cause: 'Its plug is out or turned', look: 'Compare it with the swap sheet, with the power off.', at: 'wiring' },
    { cause: 'Something keeps its blades', look: 'Turn it with a fingertip, with the power off.' },
  ],
  other: [{ cause: 'Two leads are exchanged', look: 'Compare the leads with the swap sheet, with the supply off.', at: 'wiring' }],
}; // prettier-ignore

/** A hot-end fan is looked at so much above the temperature it turns from, in °C. */
const ABOVE_C = 8;

/** Fans that are switched by a command alone, and those that turn by themselves. */
export function fanProofs(facts: Facts, settings: Settings): Proof[] {
  return partsOf(facts, 'fan').flatMap((part): Proof[] => {
    const { id, role } = part;
    // One that no image drives is told at Wiring: nothing makes it turn.
    if (passedOver(facts, part)) return [];
    const start = fanStart(settings, role);
    return start ? [fanProof(facts, id, role, start)] : [];
  });
}

/** How a fan is made to turn: the lines that do it and those that end it, or a hot end that has to be warm. */
interface FanStart {
  act: string;
  on: string[];
  off: string[];
  warmTo?: number;
}
function fanStart(settings: Settings, role: string): FanStart | undefined {
  if (role === 'part') return isOn(settings, 'fan.part') ? { act: 'Ask for full speed.', on: ['M106 S255'], off: ['M107'] } : undefined;
  if (role === 'hotend') {
    const c = Math.round(numberOf(settings, 'fan.hotend.from') + ABOVE_C);
    return { act: `Warm the hot end to ${c} °C.`, on: [`M104 S${c + ABOVE_C}`, `M109 S${c}`], off: [heatLine('hotend', 0)], warmTo: c };
  }
  const by = settings.get('fan.board.by')?.value;
  if (by === 'with-motion') return { act: 'Let Z move a little.', on: ['G91', 'G1 Z2 F300', 'M400'], off: ['G90'] };
  if (by === 'with-heat') return { act: 'Ask for a little heat.', on: ['M104 S45'], off: [heatLine('hotend', 0)] };
  return { act: 'It runs whenever the power is on.', on: [], off: [] };
} // prettier-ignore

function fanProof(facts: Facts, id: string, role: string, start: FanStart): Proof {
  const name = fanCalled(role);
  return proofBySight(
    {
      id: `fan-${role}`,
      title: `The ${name} turns`,
      act: `${start.act} Look at the ${name}: does it turn, and only it?`,
      caution: 'Blades cut fingers. Look, and keep your hand away.',
      restsOn: ['board', `fan.${role}`, 'landing.fan', 'supply'],
      after: role === 'hotend' ? ['heat-hotend'] : ['identity'],
      causes: FAN_CAUSES,
    },
    TURNS,
    () => turnAndLook(facts, id, name, start),
  );
}

function* turnAndLook(facts: Facts, id: string, name: string, { on, off, warmTo }: FanStart): Run<string> {
  if (warmTo !== undefined) yield* tell(`The hot end warms to ${warmTo} °C.`);
  // What is warmed is the first hot end, whichever tool is in use.
  yield* firstTool(facts);
  const problem = yield* askAll(on);
  const looked = problem
    ? ended(problem)
    : yield* see({ text: `What does the ${name} do?`, about: id, choices: TURNS });
  // Whatever came of it, nothing is left on.
  yield* askAll(off);
  return looked;
}

const TURNED: readonly Choice[] = [
  { id: 'both', label: 'It went one way, then the other' },
  { id: 'trembles', label: 'It trembles or hums' },
  { id: 'stands', label: 'It stands' },
];
/** Two pulses that every servo can follow, in µs. */
const PULSES_US = [1200, 1800] as const;

/** Servos that are no probe's. */
export const servoProofs = (facts: Facts): Proof[] =>
  partsOf(facts, 'servo')
    .filter((part) => !passedOver(facts, part))
    .map(({ id, role }) => {
      const number = servosOf(facts).findIndex((servo) => servo.id === id) + 1;
      return proofBySight(
      {
        id: `servo-${id}`,
        title: `The servo of the ${role} goes where it is told`,
        act: `Ask for ${PULSES_US[0]} µs, then ${PULSES_US[1]} µs, and watch its arm.`,
        caution: 'Its arm pinches, and what it works moves with it. Keep fingers away.',
        restsOn: ['board', `servo.${role}`, 'landing.servo', 'supply'],
        after: ['identity'],
        causes: {
          trembles: [{ cause: 'Its supply is too weak or its ground loose', look: 'Measure 5 V at its plug while it moves.', at: 'wiring' }],
          stands: [{ cause: 'Its plug is turned or in another header', look: 'Compare it with the swap sheet, with the power off.', at: 'wiring' }],
        },
      },
      TURNED,
      function* () {
        yield* tell('Its arm moves now. Watch it.');
        const problem = yield* askAll(PULSES_US.flatMap((us) => [`servo n=${number} w=${us}`, 'G4 S1']));
        return problem ? ended(problem) : yield* see({ text: 'What did its arm do?', about: id, choices: TURNED });
      },
    ); // prettier-ignore
    });
