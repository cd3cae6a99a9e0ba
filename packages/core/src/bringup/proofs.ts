import type { Facts } from '../machine/facts';
import { partFor, partsOf } from '../machine/facts';
import { AXES, HEATED } from '../machine/machine';

export interface ProofStep {
  id: string;
  title: string;
  /** What a person does, in one or two sentences. */
  act: string;
  caution?: string;
  /** The facts it rests on (see ripple/touched.ts); when one of them changes, the proof is void. */
  restsOn: string[];
}

/** What bring-up proves about a machine, in an order in which nothing can be hurt. */
export function proofSteps(facts: Facts): ProofStep[] {
  const probe = partsOf(facts, 'probe')[0];
  return [
    {
      id: 'identity',
      title: 'The right image runs',
      act: 'Switch the power on and compare the name and build the board reports with what you built.',
      restsOn: ['board', 'kit', 'image'],
    },
    {
      id: 'store',
      title: 'Stored settings are fresh',
      act: 'Reset the stored settings to those of the image and store them, so that old values cannot linger.',
      restsOn: ['board', 'kit', 'image'],
    },
    {
      id: 'cold',
      title: 'Temperatures plausible cold',
      act: 'Read every sensor with all heaters off. Each should show the temperature of the room.',
      restsOn: ['board', 'thermistor.*', 'landing.thermistor'],
    },
    ...AXES.filter((axis) => partFor(facts, 'switch', axis)).map((axis) => ({
      id: `switch-${axis}`,
      title: `${axis.toUpperCase()} switch reads both ways`,
      act: `Press the ${axis.toUpperCase()} switch by hand and let go. The board should read it closed, then open.`,
      caution: 'Moving axes pinch. Keep motors idle and your fingers off belts.',
      restsOn: ['board', `switch.${axis}`, 'landing.switch', 'frame.switches'],
    })),
    ...(probe
      ? [
          {
            id: 'probe',
            title: 'The probe triggers in mid-air',
            act: 'Deploy the probe high above the plate and hold something flat under it. It must trigger before it is ever trusted over the plate.',
            caution: 'A probe that does not trigger lets the nozzle ram the plate. Test it in the air.',
            restsOn: ['board', 'probe', 'probe-mount', 'landing.probe', 'supply'],
          },
        ]
      : []),
    ...HEATED.filter((body) => partFor(facts, 'relay', body)).map((body) => ({
      id: `relay-${body}`,
      title: `The relay of the ${body === 'bed' ? 'bed' : 'hot end'} drops out`,
      act: 'Ask for a little heat, see the board switch the relay on, ask for none, and see it drop out: its lamp goes dark and the temperature stops rising.',
      caution:
        'A relay that sticks keeps the heater on. Keep a hand on the mains switch, and pull the plug if it does not drop out.',
      restsOn: ['board', `relay.${body}`, 'landing.relay', `heater.${body}`],
    })),
    {
      id: 'home',
      title: 'It homes',
      act: 'Home all axes with one hand on the power switch.',
      caution:
        'An axis that runs the wrong way hits the frame. Keep a hand on the switch and stop it at the first wrong move.',
      restsOn: [
        'board', 'driver.*', 'motor.*', 'axis.x', 'axis.y', 'axis.z', 'plug.*', 'switch.*', 'probe', 'probe-mount',
        'frame.*', 'landing.switch', 'landing.probe', 'supply',
      ], // prettier-ignore
    },
  ];
}
