import { Refusal } from '@jolly/contract/refusal';
import type { Machine } from '@jolly/core/machine/machine';
import type { Within } from '../context';
import { loadBases } from '../files/kitSources';
import { theMachine } from './known';

/**
 * The base configuration nearest to a machine: of its kit, for its kind of frame.
 * @throws {Refusal} not-so where the kit has none, or only one for another version of it
 */
export async function baseOf(context: Within, machineId: string): Promise<Machine> {
  const { machine } = await theMachine(context, machineId);
  const { kit, frame } = machine;
  const bases = (await loadBases(context.root, kit.id)).filter(
    (base) => base.frame.kinematics === frame.kinematics,
  );
  const called = context.catalogue.kits.find(({ id }) => id === kit.id)?.name ?? kit.id;
  const [first] = bases;
  if (!first) throw new Refusal('not-so', `${called} has no base configuration for ${frame.kinematics} machines`); // prettier-ignore
  const fits = bases.find((base) => base.kit.version === kit.version);
  if (!fits) throw new Refusal('not-so', `${first.name} is for ${called} ${first.kit.version}; ${machine.name} is for ${called} ${kit.version}. Sources and base of different versions tell nothing`); // prettier-ignore
  return fits;
}
