import type { Build } from '@jolly/contract/endpoints/builds';
import type { Board } from '@jolly/core/board/board';
import { boardCalled, boardTaking, type Catalogue } from '@jolly/core/catalogue/catalogue';

type DoneBuild = Extract<Build, { state: 'done' }>;
type OfBoard = Pick<Board, 'routes'>;

/** Whether a board takes this build's image. For what an older build was made is not kept; it counts as this board's. */
const isFor = ({ target }: Pick<DoneBuild, 'target'>, { routes }: OfBoard): boolean =>
  target === undefined || routes.some((route) => route.target === target);

/** What the board is called that a build was made for, where it is not this one. */
export function otherBoardOf(
  build: Pick<DoneBuild, 'target'>,
  board: OfBoard,
  catalogue: Pick<Catalogue, 'boards'>,
): string | undefined {
  if (build.target === undefined || isFor(build, board)) return undefined;
  const other = boardTaking(catalogue, build.target);
  return other ? boardCalled(catalogue, other) : build.target;
}

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
