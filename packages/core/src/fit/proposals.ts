import { type Edit, overrideEdit } from '../machine/edit';
import { chooseFit, type Cost, type Costs, type FitChoice, type FitWish, worthOf } from './chooseFit';
import { LEFT_OUT } from './leaveOut';

/** A way to make an image fit. */
export interface Proposal extends FitChoice {
  /** What it is for, in a few words. */
  title: string;
  /** Whether the compiler tries harder for it. */
  harder: boolean;
  /** The worth of everything it leaves out. */
  lost: number;
}

/** What its user wishes of a fit; whether the compiler tries harder is what proposals differ in. */
export type Wish = Omit<FitWish, 'harder' | 'correction'> & {
  /** What real builds took more than the sum of single costs said, with and without more compiler effort. */
  corrections?: { harder?: Cost; plain?: Cost };
};

/** So many of the features that the smallest loss leaves out are tried to be kept, each at the price of others. */
const KEPT_INSTEAD = 2;

/**
 * Ways to make an image fit into a room (bytes), side by side: the smallest loss with the compiler trying harder; the
 * smallest loss that keeps what that leaves out and is worth most; and the smallest loss as the compiler works now. No two of
 * them are the same. What is missing where nothing helps.
 */
export function proposals(costs: Costs, room: Cost, wish: Wish): Proposal[] | { short: Cost } {
  const harder = costs.effort !== undefined;
  const propose = (
    title: string,
    changes: Pick<FitWish, 'harder' | 'locked'>,
  ): Proposal | { short: Cost } => {
    const correction = wish.corrections?.[changes.harder ? 'harder' : 'plain'];
    const chosen = chooseFit(costs, room, {
      worth: wish.worth,
      ...changes,
      ...(correction && { correction }),
    });
    if ('short' in chosen) return chosen;
    const lost = chosen.dropped.reduce((sum, feature) => sum + worthOf(feature, wish), 0);
    return { title, harder: changes.harder, ...chosen, lost };
  };
  const first = propose('Smallest loss', { harder, locked: wish.locked });
  if ('short' in first) return first;
  const dearest = [...first.dropped].sort((a, b) => worthOf(b, wish) - worthOf(a, wish)).slice(0, KEPT_INSTEAD); // prettier-ignore
  const others = [
    ...dearest.map(({ key, label }) => propose(`Keep: ${label}`, { harder, locked: [...wish.locked, key] })),
    ...(harder ? [propose('As the compiler works now', { harder: false, locked: wish.locked })] : []),
  ];
  const found: Proposal[] = [];
  for (const proposal of [first, ...others])
    if (!('short' in proposal) && !found.some((other) => sameOf(other) === sameOf(proposal))) found.push(proposal); // prettier-ignore
  return found;
}

const sameOf = ({ harder, dropped }: Proposal): string =>
  JSON.stringify([harder, dropped.map(({ key }) => key).sort()]);

/** The changes to the machine file that a proposal asks for. */
export function editsOf(
  { dropped, harder }: Pick<Proposal, 'dropped' | 'harder'>,
  { effort }: Costs,
): Edit[] {
  return [
    ...dropped.map(({ key, other }) => overrideEdit(key, other, LEFT_OUT)),
    ...(harder && effort ? [overrideEdit(effort.key, effort.value, 'so that the image fits')] : []),
  ];
}
