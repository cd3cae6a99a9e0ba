import { optionOf } from '@jolly/core/kit/optionOf';
import type { Finding } from '@jolly/core/finding/finding';
import { settingInWords } from '@jolly/core/kit/settingInWords';
import type { Setting } from '@jolly/core/settings/setting';
import type { KnownMachine } from './known';
import type { Looked } from './preview';

const idOf = ({ id, subject }: Finding) => `${id} ${subject.kind} ${subject.id}`;
const standing = (findings: readonly Finding[]) => findings.filter(({ waived }) => waived === undefined);

/** What would be otherwise after a change, line by line: settings with both values, and findings that come or go. */
export function previewInWords(
  { kit, findings, settings }: Pick<KnownMachine, 'kit' | 'findings'> & { settings: ReadonlyMap<string, Setting> },
  after: Looked,
): string[] {
  const changed = after.settings.flatMap(({ key, value }): string[] => {
    const before = settings.get(key);
    if (!before || before.value === value) return [];
    const option = optionOf(kit, key);
    return [`${option?.label ?? key}: ${settingInWords(option, value)} instead of ${settingInWords(option, before.value)}`];
  });
  const [was, would] = [standing(findings), standing(after.findings)];
  const without = (of: readonly Finding[], others: readonly Finding[]) => {
    const known = new Set(others.map(idOf));
    return of.filter((finding) => !known.has(idOf(finding)));
  };
  return [
    ...changed,
    ...without(would, was).map(({ what }) => `To settle then: ${what}`),
    ...without(was, would).map(({ what }) => `Settled by it: ${what}`),
  ];
} // prettier-ignore
