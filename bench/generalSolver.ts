/** The harness model as a mixed integer program, for a general solver to solve the same thing. */
import type { Placement } from '@jolly/core/solver/placement';

/**
 * CPLEX LP text: one binary a choice, one a mode of a group, one a loss. Every item gets one choice, everything
 * exclusive goes at most once, draws stay within capacities, a group has one mode, a loss used is paid.
 */
export function asLp({ items, capacities, losses }: Placement): string {
  const price: string[] = [];
  const rules: string[] = [];
  const takes = new Map<number, string[]>();
  const draws = capacities.map(() => [] as string[]);
  const modes = new Map<number, Set<number>>();
  const names: string[] = [];
  items.forEach((item, i) => {
    const all = item.choices.map((choice, c) => {
      const name = `x${i}_${c}`;
      names.push(name);
      if (choice.price !== 0) price.push(`${choice.price} ${name}`);
      for (const take of choice.takes) takes.set(take, [...(takes.get(take) ?? []), name]);
      for (const { from, amount } of choice.draws ?? []) draws[from]!.push(`${amount} ${name}`);
      for (const loss of choice.loses ?? []) rules.push(`${name} - y${loss} <= 0`);
      if (choice.mode) {
        const { group, is } = choice.mode;
        rules.push(`${name} - m${group}_${is} <= 0`);
        modes.set(group, (modes.get(group) ?? new Set()).add(is));
      }
      return name;
    });
    rules.push(`${all.join(' + ')} = 1`);
  });
  for (const all of takes.values()) if (all.length > 1) rules.push(`${all.join(' + ')} <= 1`);
  draws.forEach((all, from) => {
    if (all.length > 0) rules.push(`${all.join(' + ')} <= ${capacities[from]}`);
  });
  for (const [group, all] of modes) {
    const own = [...all].map((is) => `m${group}_${is}`);
    names.push(...own);
    rules.push(`${own.join(' + ')} <= 1`);
  }
  losses.forEach((loss, at) => {
    names.push(`y${at}`);
    price.push(`${loss} y${at}`);
  });
  return [
    'Minimize',
    ` obj: ${price.join(' + ') || '0 x0_0'}`,
    'Subject To',
    ...rules.map((rule, at) => ` r${at}: ${rule}`),
    'Binaries',
    ` ${names.join(' ')}`,
    'End',
  ].join('\n');
}
