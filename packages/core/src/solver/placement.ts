/**
 * The constraint model of the harness search, free of boards and parts. Every item needs exactly one of its
 * choices. A choice takes things that only one item may have, draws on capacities that items share, asks a group
 * to run in one mode, and may give something up that is paid for once, however many give it up.
 * All numbers are whole, so that equal prices are equal. See docs/harness-search.md.
 */
export interface Placement {
  items: Item[];
  /** How much may be drawn from each capacity. */
  capacities: number[];
  /** The price of each thing that can be given up. */
  losses: number[];
}

export interface Item {
  choices: Choice[];
}

export interface Choice {
  price: number;
  /** Exclusive things, the principal one (a pin or a socket) first. */
  takes: number[];
  draws?: { from: number; amount: number }[];
  /** A group that all who use it must run in one mode: a timer and its frequency. */
  mode?: { group: number; is: number };
  /** What is given up by this choice. */
  loses?: number[];
}

/** One choice for every item, in the order of the items. */
export interface Placed {
  picks: number[];
  price: number;
}

/** Price of a placement: that of its choices, and of everything given up, once. */
export function priceOf({ items, losses }: Placement, picks: readonly number[]): number {
  const chosen = items.map((item, index) => item.choices[picks[index]!]!);
  const lost = new Set(chosen.flatMap((choice) => choice.loses ?? []));
  return (
    chosen.reduce((sum, choice) => sum + choice.price, 0) +
    [...lost].reduce((sum, loss) => sum + losses[loss]!, 0)
  );
}

/** What is wrong with a placement that takes one choice an item; empty when all rules hold. */
export function violations({ items, capacities }: Placement, picks: readonly number[]): string[] {
  const taken = new Map<number, number>();
  const modes = new Map<number, number>();
  const drawn = capacities.map(() => 0);
  const found: string[] = [];
  items.forEach((item, index) => {
    const choice = item.choices[picks[index]!];
    if (!choice) return void found.push(`item ${index} has no choice ${picks[index]}`);
    for (const take of choice.takes) {
      if (taken.has(take)) found.push(`items ${taken.get(take)} and ${index} both take ${take}`);
      taken.set(take, index);
    }
    for (const { from, amount } of choice.draws ?? []) drawn[from]! += amount;
    if (!choice.mode) return;
    const known = modes.get(choice.mode.group);
    if (known !== undefined && known !== choice.mode.is)
      found.push(`group ${choice.mode.group} in two modes`);
    modes.set(choice.mode.group, choice.mode.is);
  });
  drawn.forEach((amount, from) => {
    if (amount > capacities[from]!)
      found.push(`${amount} drawn from ${from}, which gives ${capacities[from]}`);
  });
  return found;
}
