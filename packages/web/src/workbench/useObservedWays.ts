import { MOTOR_AXES } from '@jolly/core/machine/machine';
import { useDraft } from '../ui/useDraft';
import { useWorkbench } from './Workbench';

/**
 * What a person saw of each move that was asked for, in this window. It holds for the image, the directions and the plugs
 * it was seen with: with others nothing was tried yet.
 * @param imageHash of the image on the board
 */
export function useObservedWays(imageHash: string | null | undefined) {
  const { machine, facts, settings } = useWorkbench();
  const turned = MOTOR_AXES.map((axis) => String(settings.get(`direction.${axis}`)?.value));
  const plugged = facts.parts.flatMap(({ id, type, landing }) =>
    type.kind === 'motor' ? [`${id} ${JSON.stringify(landing)}`] : [],
  );
  return useDraft<Record<string, string>>(
    `directions:${machine.id}:${[imageHash ?? '', ...turned, ...plugged].join(';')}`,
    {},
  );
}
