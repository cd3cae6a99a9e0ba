/**
 * A number as people type it: decimal comma or point, a sign, and the field's own unit after it if they like.
 * Undefined when it is no such number.
 */
export function readNumber(text: string, unit = ''): number | undefined {
  const trimmed = text.trim().replace('−', '-');
  const bare =
    unit && trimmed.toLowerCase().endsWith(unit.toLowerCase())
      ? trimmed.slice(0, -unit.length).trim()
      : trimmed;
  if (!/^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(bare)) return undefined;
  return Number(bare.replace(',', '.'));
}
