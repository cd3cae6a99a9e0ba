import type { Board } from '../board/board';
import { ask, choose, type Choice, ended, replies, type Run, see, seen, tell } from '../bringup/procedure';
import { type Facts, partsOf } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { type Cause, found, type Proof, proof, proven } from './proof';

const SHOWS: readonly Choice[] = [
  { id: 'name', label: 'The machine’s name and temperatures' },
  { id: 'blank', label: 'Nothing: it is blank or all dark' },
  { id: 'garbled', label: 'Rubbish' },
];
const FOLLOWS: readonly Choice[] = [
  { id: 'follows', label: 'The marked row moves as I turn' },
  { id: 'backwards', label: 'It moves the other way round' },
  { id: 'stands', label: 'Nothing moves' },
];

/** The display shows what runs, and follows the hand. */
export const displayProofs = (facts: Facts, settings: Settings): Proof[] =>
  isOn(settings, 'display.kind') ? partsOf(facts, 'display').slice(0, 1).map(({ id, type }) => displayProof(id, type.touched === true)) : []; // prettier-ignore

function displayProof(id: string, touched: boolean): Proof {
  const work = touched ? 'press a row with a finger' : 'press the knob, then turn it';
  return proof(
    {
      id: 'display',
      title: touched ? 'The display shows and feels' : 'The display shows, and its knob turns',
      act: `Read the machine’s display, then ${work}.`,
      restsOn: ['board', 'display.*', 'landing.display', 'image'],
      after: ['identity'],
      causes: {
        blank: [
          { cause: 'Its ribbon is turned or in the other socket', look: 'Power off. Compare both plugs with the swap sheet.', at: 'wiring' },
          { cause: 'Another kind of display was set', look: 'Read the marking on its board.', at: 'settings' },
          { cause: 'Its contrast is turned down', look: 'Turn the little screw on its back.' },
        ],
        garbled: [{ cause: 'Another kind of display was set', look: 'Read the marking on its board.', at: 'settings' }],
        stands: [{ cause: 'The second plug of its ribbon is off', look: 'Power off. Press both plugs home.', at: 'wiring' }],
        backwards: [{ cause: 'The two plugs of its ribbon are exchanged', look: 'Power off. Exchange them.', at: 'wiring' }],
      },
    },
    function* (): Run<string> {
      const shows = yield* choose({ text: 'What does the machine’s display show?', about: id, choices: SHOWS });
      if ('ended' in shows) return shows;
      if (shows.chosen !== 'name') return seen(shows.chosen);
      yield* tell(`Now ${work}.`);
      return yield* see({ text: `You ${work}: what happens on it?`, about: `${id} worked`, choices: FOLLOWS });
    },
    (chosen) => {
      const label = [...SHOWS, ...FOLLOWS].find((choice) => choice.id === chosen)?.label.toLowerCase();
      return chosen === 'follows' ? proven('it shows the machine’s name', `you saw: ${label}`) : found(chosen, `you saw: ${label}`);
    },
  );
} // prettier-ignore

/** A driver is too warm to be left alone above this, in °C. */
const HOT_C = 90;

/** Drivers that can be asked answer, and none is hot. */
export const driverProofs = ({ board }: Facts, settings: Settings): Proof[] =>
  isOn(settings, 'driver.report') ? [driversProof(board)] : [];

const NO_SUPPLY: Cause = {
  cause: 'The supply is not on: USB alone feeds no driver',
  look: 'Switch the supply on.',
};
/** Why a driver does not answer: a module can sit wrong, a soldered one cannot. */
const SILENT: Readonly<Record<Board['drivers'], readonly Cause[]>> = {
  'plugged in': [
    { cause: 'Its jumper below the module sits wrong', look: 'Supply off. Lift the module and compare the jumper with the table.', at: 'wiring' },
    { cause: 'The module sits the wrong way round', look: 'Supply off at once. Look at its marked corner.', at: 'wiring' },
    NO_SUPPLY,
  ],
  soldered: [NO_SUPPLY, { cause: 'The driver is gone', look: 'Power off. A driver that is soldered is exchanged with its board.' }],
}; // prettier-ignore

const driversProof = ({ drivers }: Pick<Board, 'drivers'>): Proof => proof(
  {
    id: 'drivers',
    title: 'The drivers answer, and none is hot',
    act: 'Ask each driver how it is, with the supply on and the motors idle.',
    restsOn: ['board', 'driver.*', 'supply', 'motor.*'],
    after: ['identity'],
    causes: {
      silent: SILENT[drivers],
      ill: [
        { cause: 'A winding is open, or its plug is out', look: 'Supply off. Measure through both windings.', at: 'wiring' },
        { cause: 'Its current is set too high', look: 'Set it lower.', at: 'settings' },
      ],
      hot: [{ cause: 'Its current is too high or its heat sink off', look: 'Set it lower; look at its heat sink.', at: 'settings' }],
    },
  },
  function* () {
    const answer = yield* ask('state');
    const told = replies(answer, 'driver').map(({ values }) => values);
    return told.length > 0 ? seen(told) : ended(answer.problem ? answer : { lines: answer.lines, problem: 'it tells nothing of its drivers' });
  },
  (told) => {
    const evidence = told.map(({ axis, state, amps, degrees }) => `${axis} ${state}${degrees === undefined ? '' : `, ${amps} A, ${degrees} °C`}`);
    if (told.some(({ state }) => state === 'silent')) return found('silent', ...evidence);
    if (told.some(({ state }) => state !== 'well')) return found('ill', ...evidence);
    return told.some(({ degrees }) => Number(degrees) > HOT_C) ? found('hot', ...evidence) : proven(...evidence);
  },
); // prettier-ignore
