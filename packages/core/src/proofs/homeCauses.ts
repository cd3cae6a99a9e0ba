import { type Facts, partsOf } from '../machine/facts';
import { type PossibleCause, possibleOn } from './possibleOn';
import type { Cause } from './proof';

/** Why homing stopped or was refused: by the kit's name of the reason what that is called here, and what may be behind it. */
interface Reason {
  finding: string;
  causes: readonly PossibleCause[];
}

/** What is asked of a machine whose step before has proven which way a motor goes: it may have had no force since. */
const NO_FORCE: Cause = { cause: 'Its motor has no force: it stood or lost steps', look: 'Watch it while it homes. Then look at its driver’s current.', at: 'settings' }; // prettier-ignore
const WRONG_WAY: Cause = { cause: 'It ran away from where it should be met', look: 'Prove again which way its motor goes, and look at which end it homes to.', at: 'settings' }; // prettier-ignore
const TOO_SHORT: Cause = { cause: 'Its way is longer than the travel that is set: it gave up before the end', look: 'Measure the travel again.', at: 'settings' }; // prettier-ignore
const MET_BY_TURNS: Cause = { cause: 'A loose contact, or a pull-up that is missing', look: 'Power off. Pull and seat its plug, then look at its wiring.', at: 'wiring' }; // prettier-ignore
const READ_WRONG: Cause = { cause: 'It is read the wrong way round', look: 'Prove again that it reads both ways.', at: 'settings' }; // prettier-ignore
const UNPLUGGED: Cause = { cause: 'Its lead is off, or its wire is broken', look: 'Power off. Look at its plug and along its wire.', at: 'wiring' }; // prettier-ignore
/** Without its wire an input is pulled high: a contact that is closed at rest reads as met then, and so does what is high when met. */
const CLOSED_UNPLUGGED: PossibleCause = { ...UNPLUGGED, when: (facts) => partsOf(facts, 'switch').some(({ type }) => type.contact === 'normally-closed') }; // prettier-ignore
const HIGH_UNPLUGGED: PossibleCause = { ...UNPLUGGED, when: (facts) => partsOf(facts, 'probe').some(({ type }) => type.triggered === 'high') }; // prettier-ignore

const STAYS_MET: Reason = {
  finding: 'stays met',
  causes: [
    { cause: 'The axis did not move away from it: its motor stood, or its pulley turns on the shaft', look: 'Watch it while it homes. Supply off before you tighten a screw.' },
    { cause: 'It sticks or is bent', look: 'Power off. Press it by hand and let go: does it spring back?' },
  ],
}; // prettier-ignore

/** By the kit's name of the reason. What no step before could have shown comes first. */
export const HOME_REASONS: Readonly<Record<string, Reason>> = {
  MET_NO_SWITCH: {
    finding: 'no switch met',
    causes: [
      NO_FORCE,
      { cause: 'It reached the end and its switch is not pressed there', look: 'Push the axis by hand to that end, the motors off: does its switch read as met?' },
      { cause: 'Another switch is read in its place', look: 'Prove again that each switch reads both ways.' },
      WRONG_WAY,
      TOO_SHORT,
    ],
  },
  MET_NO_PLATE: {
    finding: 'no plate met',
    causes: [
      { cause: 'The probe was beside the plate', look: 'See where it came down. Then look at its mount, at the Z home spot, and whether X and Y kept their place.', at: 'settings' },
      { cause: 'The probe met the plate and was not heard', look: 'Prove the probe again.' },
      NO_FORCE,
      WRONG_WAY,
      TOO_SHORT,
    ],
  },
  STALL_NEVER: {
    finding: 'no end noticed',
    causes: [
      { cause: 'It stood at the end and did not notice', look: 'Set the stall level more eager, and look at the jumper of its stall output.', at: 'settings' },
      WRONG_WAY,
      TOO_SHORT,
    ],
  },
  SWITCH_HELD: { finding: 'switch read as met', causes: [{ cause: 'Something holds its switch', look: 'Look at the switch: is it pressed, or its lever caught?' }, CLOSED_UNPLUGGED, READ_WRONG] },
  PROBE_MET_AT_ONCE: {
    finding: 'probe read as met',
    causes: [
      { cause: 'Something is at the probe, or it has not come out', look: 'Look under it. Lift Z off the plate by hand, the motors off.' },
      HIGH_UNPLUGGED,
      READ_WRONG,
    ],
  },
  STAYS_MET,
  MET_BACKED_OFF: STAYS_MET,
  FLICKERS: { finding: 'by turns', causes: [MET_BY_TURNS] },
  NO_SWITCH: { finding: 'no switch', causes: [{ cause: 'The image knows no switch for an axis', look: 'Put its switch into the machine file and give it a place; then build and flash.', at: 'wiring' }] },
  SPOT_OUTSIDE: { finding: 'spot outside', causes: [{ cause: 'The Z home spot is out of the probe’s reach', look: 'Move the spot, or look at the mount of the probe.', at: 'settings' }] },
  DRIVER_OFF: { finding: 'driver off', causes: [{ cause: 'The driver is too hot, or something at its motor is shorted', look: 'Power off, and let it cool. Look at the motor’s plug and at the current.', at: 'settings' }] },
  DRIVER_OPEN: { finding: 'winding open', causes: [{ cause: 'The motor’s plug is off, or one of its wires is broken', look: 'Supply off and unplugged first: a motor pulled under power kills its driver. Then look at the plug.', at: 'wiring' }] },
}; // prettier-ignore

/** What homing may be found to be, with what may be behind it on a machine. */
export const homeCauses = (facts: Facts): Record<string, readonly Cause[]> => possibleOn(facts, {
  ...Object.fromEntries(Object.values(HOME_REASONS).map(({ finding, causes }) => [finding, causes])),
  'not all': [{ cause: 'One axis found nothing', look: 'See which letter is missing, and prove its switch again.' }],
  refused: [{ cause: 'The board stopped, or refused, for what it says above', look: 'Mend that, wake it, and home again.' }],
}); // prettier-ignore
