/** A supply on a board: a rail of its own, or what feeds the board. */
export type SupplySource = '3v3' | '5v' | '12v' | 'vin';

/**
 * What a header contact is connected to on the board. `sw` is a switched low side, `sig` a chip pin. `none` is
 * connected to nothing; of an `unknown` one nobody has found out yet, so nothing is planned on it.
 */
export type Net =
  | { kind: 'gnd' }
  | { kind: 'supply'; source: SupplySource }
  | { kind: 'sig'; pin: number }
  | { kind: 'sw'; pin: number }
  | { kind: 'none' }
  | { kind: 'unknown' };

export const NET_PATTERN = /^(gnd|3v3|5v|12v|vin|nc|\?|(sig|sw):p\d{1,3})$/;

/** Reads a net as written in a board file: `gnd`, `3v3`, `5v`, `12v`, `vin`, `sig:p12`, `sw:p40`, `nc` or `?`. */
export function parseNet(text: string): Net {
  if (text === 'gnd') return { kind: 'gnd' };
  if (text === 'nc') return { kind: 'none' };
  if (text === '?') return { kind: 'unknown' };
  if (text === '5v' || text === '3v3' || text === '12v' || text === 'vin')
    return { kind: 'supply', source: text };
  const [kind, pin] = text.split(':p');
  return { kind: kind === 'sw' ? 'sw' : 'sig', pin: Number(pin) };
}
