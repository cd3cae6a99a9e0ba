import type { Build } from '@jolly/contract/endpoints/builds';

type DoneBuild = Extract<Build, { state: 'done' }>;
export const newestDone = (builds: Build[]): DoneBuild | undefined =>
  builds.find((build): build is DoneBuild => build.state === 'done');

/** Whether the newest good build was made from the machine as it is now. */
export function upToDate({
  builds,
  workbench,
}: {
  builds: Build[];
  workbench: { version: number };
}): boolean {
  return newestDone(builds)?.machineVersion === workbench.version;
}
