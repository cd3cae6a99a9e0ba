/** A meter's reading: a value in its unit, or that nothing flows at all. */
export type MeterReading = { value: number } | { open: true };

const OPEN = /^(open|ol|o\.l\.?|over|∞|inf(inity)?|-+)$/i;
const NUMBER = /^([0-9]+(?:[.,][0-9]*)?|[.,][0-9]+)\s*(k|m|meg)?\s*(ohms?|ω|Ω|v|volts?)?$/i;
const FACTORS: Readonly<Record<string, number>> = { k: 1e3, m: 1e6, meg: 1e6 };

/**
 * What was read off a meter, as people type it: `14.4`, `1,2 k`, `0.98 MΩ`, `OL`, `open`. Ohms or volts, whichever is
 * asked. Undefined when it is no reading.
 */
export function readMeter(text: string): MeterReading | undefined {
  const said = text.trim();
  if (OPEN.test(said)) return { open: true };
  const [, digits, factor = ''] = NUMBER.exec(said) ?? [];
  if (digits === undefined) return undefined;
  return { value: Number(digits.replace(',', '.')) * (FACTORS[factor.toLowerCase()] ?? 1) };
}

/** Ohms as a meter shows them, three digits: `14.4 Ω`, `112 kΩ`, `open`. */
export function ohmsInWords(ohms: number): string {
  if (ohms >= OPEN_OHMS) return 'open';
  const [value, unit] = ohms >= 1e6 ? [ohms / 1e6, 'MΩ'] : ohms >= 1e3 ? [ohms / 1e3, 'kΩ'] : [ohms, 'Ω'];
  return `${Number(value.toPrecision(3))} ${unit}`;
}

/** Above this a meter shows that nothing flows. */
export const OPEN_OHMS = 2e7;
