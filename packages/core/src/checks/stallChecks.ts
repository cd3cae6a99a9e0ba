import type { Spoken } from '../finding/finding';
import { asSet, resetRemedy } from '../finding/settingFinding';
import { stalledInput } from '../harness/jumperPlan';
import { driverOf, type Facts, partFor, socketOf } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import type { Check } from './check';

const STALL_AXES = ['x', 'y'] as const;

/** Why the image cannot hear that the motor of an axis stands; nothing where it can, as far as anybody looked. */
function deafness(facts: Facts, settings: Settings, axis: string): string | undefined {
  const motor = partFor(facts, 'motor', axis);
  const socket = facts.board.sockets.find(({ id }) => id === socketOf(motor));
  if (!socket) return `the motor of ${axis.toUpperCase()} is in no socket`;
  const driver = driverOf(facts, motor);
  if (!driver?.type.stall)
    return `${driver ? driver.type.name : 'socket ' + socket.id} does not notice that a motor stands`;
  if (socket.stall === undefined) return `socket ${socket.id} has no stall line`;
  if (!isOn(settings, 'driver.line'))
    return 'drivers are told at their pots, and nothing tells the stall level';
  const jumper = facts.board.jumpers?.find(({ sets, of }) => sets === 'stall line' && of === socket.id);
  const seen = jumper?.positions.find(({ id }) => id === facts.machine.jumpers?.[jumper.id]);
  if (seen?.stall === 'parted') return `${jumper?.id} at ${seen.id}: ${seen.means}`;
  const user = stalledInput(facts, socket.id);
  return user && `${user} sits on the input of the stall line`;
}

function unheardStall(facts: Facts, settings: Settings): Spoken[] {
  return STALL_AXES.flatMap((axis) => {
    const key = `stall.${axis}`;
    const because = isOn(settings, key) ? deafness(facts, settings, axis) : undefined;
    if (because === undefined) return [];
    return [
      {
        subject: { kind: 'setting', id: key } as const,
        what: `${axis.toUpperCase()} is to home by stalling, and its stall is not heard.`,
        why: 'It would press against the frame, stop short of it, or the build would fail. Mend what is named below, or home with a switch.',
        evidence: [asSet(settings, key), because],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

export const stallChecks: Check[] = [{ id: 'home.stall', severity: 'stop', run: unheardStall }];
