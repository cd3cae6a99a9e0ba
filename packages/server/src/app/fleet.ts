import { optionOf } from '@jolly/core/kit/optionOf';
import type { SharedSetting } from '@jolly/contract/endpoints/fleet';
import { Refusal } from '@jolly/contract/refusal';
import { check } from '@jolly/core/checks/checks';
import type { Finding } from '@jolly/core/finding/finding';
import { heldBack } from '@jolly/core/fleet/policy';
import { refusal } from '@jolly/core/kit/kit';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import { storedSettings } from '@jolly/core/kit/storedSettings';
import type { SettingValue } from '@jolly/core/kit/settingValue';
import { applyEdits, overrideEdit } from '@jolly/core/machine/edit';
import { resolve } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { ofOneMachine } from '@jolly/core/settings/ofOneMachine';
import { type Context, transact, type Within } from '../context';
import { addEdit } from '../sql/edits';
import { addEntry } from '../sql/entries';
import { saveMachine } from '../sql/machines';
import { policyOf } from '../sql/policies';
import { factsOf, theFacts, theMachine } from './known';

interface Wanted {
  key: string;
  value: SettingValue;
}

/** What one setting would make of several machines. */
export const trySetting = (
  context: Within,
  { machines, ...wanted }: Wanted & { machines: readonly string[] },
): Promise<SharedSetting[]> => Promise.all(machines.map((id) => tryOn(context, id, wanted)));

/** Why a value is set at one machine only. */
const OF_ONE = {
  measured: 'It belongs to the machine it was measured on. Measure it at this one.',
  itself: 'It tells what one machine is. Set it at this one.',
} as const;

const withValue = (machine: Machine, { key, value }: Wanted, because: string): Machine =>
  applyEdits(machine, [overrideEdit(key, value, because)]);

async function tryOn(context: Within, id: string, wanted: Wanted): Promise<SharedSetting> {
  const { machine, version } = await theMachine(context, id);
  const named = { id, name: machine.name, version };
  const out = (leftOut: string): SharedSetting => ({ machine: named, leftOut, brings: [], settles: [], build: false });
  const resolved = resolve(machine, context.catalogue);
  if ('problems' in resolved) return out(`It cannot be read: ${resolved.problems[0].message}.`);
  const { facts } = resolved;
  const option = optionOf(facts.kit, wanted.key);
  if (!option) return out(`${facts.kit.name} ${facts.kit.version} has no setting ${wanted.key}.`);
  const own = ofOneMachine(wanted.key);
  if (own) return out(OF_ONE[own]);
  const wrong = refusal(option, wanted.value);
  if (wrong !== undefined) return out(wrong);
  const settings = derive(facts);
  const before = settings.get(wanted.key)?.value;
  const held = heldBack(await policyOf(context.db, id), 'setting');
  if (held !== undefined) return { ...out(held), ...(before !== undefined && { before }) };
  if (before === wanted.value) return { ...out('It has this value already.'), before };
  const after = resolve(withValue(machine, wanted, 'tried'), context.catalogue);
  if ('problems' in after) return out(`It cannot take it: ${after.problems[0].message}.`);
  const [were, are] = [standing(check(facts, settings)), standing(check(after.facts, derive(after.facts)))];
  return {
    machine: named,
    ...(before !== undefined && { before }),
    brings: onlyIn(are, were),
    settles: onlyIn(were, are),
    // What a board keeps in its store can be told to it; anything else is compiled in.
    build: !storedSettings(facts.kit).some(({ option: { key } }) => key === wanted.key),
  };
} // prettier-ignore

const standing = (findings: readonly Finding[]): Map<string, Finding> =>
  new Map(
    findings
      .filter(({ waived }) => waived === undefined)
      .map((finding) => [`${finding.id} ${finding.subject.id}`, finding]),
  );
const onlyIn = (one: ReadonlyMap<string, Finding>, other: ReadonlyMap<string, Finding>) =>
  [...one].filter(([key]) => !other.has(key)).map(([, { severity, what }]) => ({ severity, what }));

/** Sets one setting on several machines, all or nothing; those that are left out stay. */
export function shareSetting(
  context: Context,
  { versions, because, ...wanted }: Wanted & { because: string; versions: Record<string, number> },
): Promise<SharedSetting[]> {
  return transact(context, async (within) => {
    const ids = Object.keys(versions);
    const tried = await trySetting(within, { ...wanted, machines: ids });
    const stale = tried.filter(({ machine: { id, version } }) => versions[id] !== version);
    if (stale.length > 0)
      throw new Refusal(
        'stale',
        `changed since you looked: ${stale.map(({ machine }) => machine.name).join(', ')}; look again`,
      );
    for (const { machine, leftOut } of tried)
      if (leftOut === undefined) await setOn(within, machine.id, wanted, because);
    return tried;
  });
}

async function setOn(within: Within, id: string, wanted: Wanted, because: string): Promise<void> {
  const { machine, version } = await theMachine(within, id);
  const after = withValue(machine, wanted, because);
  const at = within.now();
  const stored = await saveMachine(within.db, after, version, at);
  if (!stored) throw new Refusal('stale', `${machine.name} was changed in this very moment; try again`);
  const option = optionOf(factsOf(within, after).kit, wanted.key);
  const label = `${option?.label ?? wanted.key}: ${settingInWords(option, wanted.value)}, set on several machines`;
  await addEdit(within.db, id, { label, before: machine, after, version: stored.version, at });
  await addEntry(within.db, id, { at, kind: 'settings', summary: `${label}: ${because}` });
}

/** Settings in which two machines differ, their size and their drives aside; null where one of them has none. */
export async function settingsApart(context: Within, id: string, other: string) {
  const [here, there] = [derive(await theFacts(context, id)), derive(await theFacts(context, other))];
  const keys = new Set([...here.keys(), ...there.keys()]);
  return [...keys].sort().flatMap((key) => {
    const [a, b] = [here.get(key)?.value ?? null, there.get(key)?.value ?? null];
    return a === b || ofOneMachine(key) === 'itself' || key.startsWith('steps.')
      ? []
      : [{ key, here: a, there: b }];
  });
}
