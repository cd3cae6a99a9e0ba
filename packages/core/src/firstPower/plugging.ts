import { isCardRoute } from '../board/route';
import { type Facts, partsOf } from '../machine/facts';

/** Whether something may be plugged or pulled in a stage of the first power, and why. */
export interface Plugging {
  id: string;
  thing: string;
  may: boolean;
  because: string;
}
type StageId = 'before' | 'usb' | 'supply';

interface Rule extends Omit<Plugging, 'may'> {
  /** The stages in which it may. */
  in: readonly StageId[];
  /** Whether this machine has it. */
  has: (facts: Facts) => boolean;
}
const kinds =
  (...wanted: string[]) =>
  ({ parts }: Facts) =>
    parts.some(({ type, landing }) => landing !== undefined && wanted.includes(type.kind));

/** Things with plugs, the most delicate first. */
const RULES: readonly Rule[] = [
  { id: 'modules', thing: 'driver modules', in: ['before'], has: ({ board }) => board.drivers === 'plugged in', because: 'one that goes in or out under power dies, and may take the socket along' },
  { id: 'motors', thing: 'motor plugs', in: ['before'], has: kinds('motor'), because: 'the coil’s spark kills the driver, also at rest' },
  { id: 'heaters', thing: 'heaters and the supply’s terminals', in: ['before'], has: kinds('heater'), because: 'they carry amperes: a slip of the screwdriver is a short' },
  { id: 'fans', thing: 'fans and lamps', in: ['before'], has: kinds('fan', 'lamp'), because: 'at the wrong header or the wrong way round they burn at once' },
  { id: 'sensors', thing: 'sensors, switches, probe, servo', in: ['before'], has: kinds('thermistor', 'switch', 'probe', 'filament-sensor', 'servo'), because: 'a plug that is askew for a moment puts 5 V where none may be' },
  { id: 'display', thing: 'the display’s ribbon', in: ['before'], has: (facts) => partsOf(facts, 'display').length > 0, because: 'its supply and its signals come in no order when it is plugged' },
  { id: 'card', thing: 'a card in its slot', in: ['before'], has: ({ board }) => board.routes.some(isCardRoute), because: 'the board looks at it when power comes, and may be writing while there is some' },
  { id: 'usb', thing: 'the USB lead', in: ['before', 'usb'], has: () => true, because: 'beside the supply it may carry current between the two; out before the supply comes, in again once its rails are proven' },
  { id: 'tips', thing: 'the tips of your meter', in: ['before', 'usb', 'supply'], has: () => true, because: 'on volts it may touch what is live; on ohms only what is dead' },
]; // prettier-ignore

/** What may be plugged or pulled in a stage, of what this machine has. */
export const pluggingIn = (facts: Facts, stage: StageId): Plugging[] =>
  RULES.filter(({ has }) => has(facts)).map(({ id, thing, because, in: stages }) => ({
    id,
    thing,
    because,
    may: stages.includes(stage),
  }));
