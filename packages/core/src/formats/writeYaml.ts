import { stringify } from 'yaml';

/**
 * A value as YAML that readers of 1.1 and of 1.2 read the same: text that the older takes for a flag, a number, a date or a
 * time (`no`, `010`, `1:30`, `2026-11-27`) stands in quotes.
 * @param lineWidth where long lines are folded, in letters
 */
export function writeYaml(value: unknown, lineWidth: number): string {
  return stringify(value, { version: '1.1', lineWidth, aliasDuplicateObjects: false });
}
