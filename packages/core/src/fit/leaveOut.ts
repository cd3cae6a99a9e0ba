import { boardActions } from '../bringup/boardActions';
import type { Catalogue } from '../catalogue/catalogue';
import { check } from '../checks/checks';
import type { Finding } from '../finding/finding';
import { stopping } from '../finding/stopping';
import { applyEdits, overrideEdit } from '../machine/edit';
import { type Facts, resolve } from '../machine/facts';
import { derive } from '../settings/derive';
import type { ImageFeature } from './imageFeatures';
import { notUnderstood } from '../settings/understands';

/** Why a feature is set as it is, in the machine file. */
export const LEFT_OUT = 'left out so that the image fits';

/** What no longer works without a feature. */
export interface Losses {
  /** Commands that the board no longer knows, with what they are for. */
  commands: string[];
  /** What Bring-up can no longer tell the board to do. */
  actions: string[];
  /** What the checks then say that they do not say now. */
  findings: string[];
}

/** The same machine with features turned: those on are left out, those off are switched on. */
export function factsTurned(facts: Facts, catalogue: Catalogue, features: readonly ImageFeature[]): Facts {
  const machine = applyEdits(facts.machine, features.map(({ key, other }) => overrideEdit(key, other, LEFT_OUT))); // prettier-ignore
  const resolved = resolve(machine, catalogue);
  if ('problems' in resolved) throw new Error(resolved.problems[0].message);
  return { ...resolved.facts, chip: facts.chip };
}

const nameOf = ({ id, subject }: Finding): string => `${id} ${subject.id}`;

/** Tells what the checks say of a machine that they do not say of this one. */
function freshFindings(facts: Facts): (turned: Facts) => Finding[] {
  const had = new Set(check(facts, derive(facts)).map(nameOf));
  return (turned) => check(turned, derive(turned)).filter((finding) => !had.has(nameOf(finding)));
}

/**
 * What has to go along when a feature is turned, because a finding that stops would come of it alone: other features, as few
 * as help; or, where nothing that can be left out helps, what that finding says.
 * @param free features that may go along
 */
export function goesWith(
  facts: Facts,
  catalogue: Catalogue,
  feature: ImageFeature,
  free: readonly ImageFeature[],
): { others: ImageFeature[] } | { because: string } {
  const fresh = freshFindings(facts);
  const stops = (features: ImageFeature[]) => stopping(fresh(factsTurned(facts, catalogue, features)));
  const others: ImageFeature[] = [];
  for (;;) {
    const [stop] = stops([feature, ...others]);
    if (!stop) return { others };
    const may = free.filter((other) => other.key !== feature.key && !others.includes(other));
    const helps = may.find(
      (other) => !stops([feature, ...others, other]).some((left) => nameOf(left) === nameOf(stop)),
    );
    if (!helps) return { because: stop.what };
    others.push(helps);
  }
}

/** What is lost in use when features are left out. */
export function lossesOf(facts: Facts, catalogue: Catalogue, features: readonly ImageFeature[]): Losses {
  const turned = factsTurned(facts, catalogue, features);
  const [before, after] = [derive(facts), derive(turned)];
  const can = new Set(
    boardActions(turned, after).flatMap(({ actions }) => actions.map(({ label }) => label)),
  );
  const lost = (say: string) =>
    notUnderstood(facts, before, say) === undefined && notUnderstood(turned, after, say) !== undefined;
  return {
    commands: facts.kit.commands.filter(({ say }) => lost(say)).map(({ say, does }) => `${say}, ${does}`),
    actions: boardActions(facts, before).flatMap(({ actions }) => actions.filter(({ label }) => !can.has(label)).map(({ label }) => label)), // prettier-ignore
    findings: freshFindings(facts)(turned).map(({ what }) => what),
  };
}
