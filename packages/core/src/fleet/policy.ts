/** When a machine's firmware is to be changed: when one of its parts is, along with all others, or not at all. */
export const POLICIES = ['part', 'all', 'stay'] as const;
export type Policy = (typeof POLICIES)[number];

export const POLICY_WORDS: Readonly<Record<Policy, { label: string; means: string }>> = {
  part: {
    label: 'update only when a part changes',
    means: 'A newer kit or another setting elsewhere is no reason to flash this machine.',
  },
  all: {
    label: 'all at once',
    means: 'It goes along when a setting or a kit is changed on the machines that share this.',
  },
  stay: {
    label: 'stay',
    means: 'It works. Nothing is changed on it unless somebody lifts this first.',
  },
};

/** Why a change that is offered to several machines is not offered to one of them; undefined when it is. */
export function heldBack(policy: Policy | null, because: 'setting' | 'part'): string | undefined {
  if (policy === 'stay') return 'It is to stay as it is. Lift that first, if you mean it.';
  if (policy === 'part' && because === 'setting')
    return 'It is updated only when a part of it changes, and this changes none.';
  return undefined;
}
