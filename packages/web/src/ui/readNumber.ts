/** Other units a value may be typed in, and what turns them into the field's own. */
const IN_UNIT: Record<string, Record<string, number>> = {
  mm: { cm: 10, m: 1000, µm: 0.001, um: 0.001, in: 25.4, '"': 25.4 },
  'mm/s': { 'mm/min': 1 / 60, 'm/s': 1000, 'cm/s': 10 },
  'mm/s²': { 'mm/s2': 1, 'm/s²': 1000, 'm/s2': 1000 },
  'steps/mm': { 'steps/cm': 0.1, 'steps/in': 1 / 25.4 },
  s: { ms: 0.001, min: 60 },
  µs: { us: 1, ms: 1000 },
  A: { ma: 0.001 },
  V: { mv: 0.001 },
  W: { kw: 1000 },
  Ω: { ohm: 1, ohms: 1, kω: 1000, kohm: 1000 },
  '°C': { c: 1, '°': 1 },
};
/** Fractions as rulers have them. */
const SIGNS: Readonly<Record<string, string>> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
};
const FRACTION = /^([+-]?)(?:(\d+)\s+)?(\d+)\/(\d+)\s*(.*)$/;
const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/;

/**
 * A number as people type it: decimal comma or point or a fraction (`1/2`, `1 ½`), a sign, and after it the field's own
 * unit or one that turns into it. Undefined when it is no such number.
 */
export function readNumber(text: string, unit = ''): number | undefined {
  const trimmed = decimal(text.trim().replace('−', '-'));
  const [, digits = '', rest = ''] = /^([+-]?[\d.,]+)\s*(.*)$/.exec(trimmed) ?? [];
  if (!NUMBER.test(digits)) return undefined;
  const value = Number(digits.replace(',', '.'));
  const said = rest.toLowerCase();
  if (said === '' || said === unit.toLowerCase()) return value;
  const factors = IN_UNIT[unit] ?? {};
  const factor = Object.hasOwn(factors, said) ? factors[said] : undefined;
  // Binary fractions would show: 2.3 cm is 23 mm and not 22.999…
  return factor === undefined ? undefined : Number((value * factor).toPrecision(12));
}

/** A fraction written out, as `1.5 in` for `1 ½ in`; anything else as it is. */
function decimal(text: string): string {
  const spelled = text.replace(/\s*([½¼¾⅛⅜⅝⅞])/g, (_, sign: string) => ` ${SIGNS[sign]}`).trim();
  const [, sign = '', whole = '0', over, under, rest = ''] = FRACTION.exec(spelled.replace(/^([+-])\s+/, '$1')) ?? [];
  if (over === undefined || Number(under) === 0) return text;
  return `${sign}${Number(whole) + Number(over) / Number(under)} ${rest}`.trim();
} // prettier-ignore
