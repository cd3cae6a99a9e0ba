/** A meter's reading: a value in its unit, or that nothing flows at all. */
export type MeterReading = { value: number } | { open: true };

/** One dash is what people write for “not measured”. */
const OPEN = /^(open|ol|o\.l\.?|over|∞|inf(inity)?|-{3,})$/i;
const NUMBER =
  /^([0-9]+(?:[.,][0-9]*)?|[.,][0-9]+)\s*(k|K|M|m|meg|Meg|MEG)?\s*(ohms?|Ohms?|OHMS?|[\u03c9\u03a9\u2126]|[vV]|volts?|Volts?)?$/;
/** A small m is a thousandth and a large one a million: taken for each other, a short would be open. */
const FACTORS: Readonly<Record<string, number>> = {
  k: 1e3,
  K: 1e3,
  m: 1e-3,
  M: 1e6,
  meg: 1e6,
  Meg: 1e6,
  MEG: 1e6,
};

/** What a meter reads in. */
export type MeterUnit = 'Ω' | 'V';

/**
 * What was read off a meter, as people type it: `14.4`, `1,2 k`, `0.98 MΩ`, `200 mΩ`, `OL`, `open`. Undefined when it is no
 * reading, when its unit is not the one that is asked for, and for a small m without a unit: it may be meant either way.
 */
export function readMeter(text: string, asked?: MeterUnit): MeterReading | undefined {
  const said = text.trim();
  if (OPEN.test(said)) return { open: true };
  const [, digits, factor = '', unit = ''] = NUMBER.exec(said) ?? [];
  if (digits === undefined || (factor === 'm' && unit === '')) return undefined;
  if (asked !== undefined && unit !== '' && (asked === 'V') !== /^v/i.test(unit)) return undefined;
  return { value: Number(digits.replace(',', '.')) * (FACTORS[factor] ?? 1) };
}

/** Ohms as a meter shows them, three digits: `14.4 Ω`, `112 kΩ`, `open`. */
export function ohmsInWords(ohms: number): string {
  if (ohms >= OPEN_OHMS) return 'open';
  const [value, unit] = ohms >= 1e6 ? [ohms / 1e6, 'MΩ'] : ohms >= 1e3 ? [ohms / 1e3, 'kΩ'] : [ohms, 'Ω'];
  return `${Number(value.toPrecision(3))} ${unit}`;
}

/** Above this a meter shows that nothing flows. */
export const OPEN_OHMS = 2e7;
