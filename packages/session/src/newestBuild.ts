import type { Build } from '@jolly/contract/endpoints/builds';
import type { Board } from '@jolly/core/board/board';

type DoneBuild = Extract<Build, { state: 'done' }>;
type OfBoard = Pick<Board, 'routes'>;

/** Whether a board takes this build's image. For what an older build was made is not kept; it counts as this board's. */
export const isFor = ({ target }: Pick<DoneBuild, 'target'>, { routes }: OfBoard): boolean =>
  target === undefined || routes.some((route) => route.target === target);

/** The newest good build for the board the machine has now; what was built for one before it is none. */
export const newestDone = (builds: readonly Build[], board: OfBoard): DoneBuild | undefined =>
  builds.find((build): build is DoneBuild => build.state === 'done' && isFor(build, board));

/** Whether the newest good build was made from the machine as it is now. */
export function upToDate({
  builds,
  workbench: { version, board },
}: {
  builds: readonly Build[];
  workbench: { version: number; board: OfBoard };
}): boolean {
  return newestDone(builds, board)?.machineVersion === version;
}
