import type { Finding } from '@jolly/core/finding/finding';
import type { Setting } from '@jolly/core/settings/setting';
import type { KnownMachine } from './known';
import { valueInWords } from './inWords';
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
    const option = kit.options.find((entry) => entry.key === key);
    const unit = option && 'unit' in option && option.unit !== '' ? ` ${option.unit}` : '';
    return [`${option?.label ?? key}: ${valueInWords(value)}${unit} instead of ${valueInWords(before.value)}${unit}`];
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
