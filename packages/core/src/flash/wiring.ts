import type { Programmer } from '../board/programmer';
import { type Pads, type Wire, WIRES_OF, type WiredRoute } from '../board/route';

/** One wire from a tool to a pad of the board, with what is printed at each end. */
export interface Jumped {
  wire: Wire;
  /** Place of the pin in the tool's plug, counted from 0. */
  pin: number;
  pinLabel: string;
  /** Place of the pad on the board, counted from 0. */
  pad: number;
  padLabel: string;
}
export interface ProgrammerWiring {
  wires: Jumped[];
  /** Which side gives the voltage, and what that means for plugs and supply. */
  voltage: string;
  /** Why this tool must not be used; nothing is wired then. */
  against?: string;
}

/** Where a thing of a row-wise grid lies, column and row counted from 0. */
export const cellOf = (index: number, columns: number): { column: number; row: number } => ({
  column: index % columns,
  row: Math.floor(index / columns),
});

/**
 * The same grid after the board was turned by quarter turns clockwise: for each cell in the order of reading, which one of
 * the grid as drawn lies there.
 */
export function turned(count: number, columns: number, quarters: number): { columns: number; order: number[] } {
  const rows = Math.ceil(count / columns);
  const turns = ((quarters % 4) + 4) % 4;
  const wide = turns % 2 === 0 ? columns : rows;
  const high = turns % 2 === 0 ? rows : columns;
  const from = (column: number, row: number): number => {
    const [c, r] = [
      [column, row],
      [row, rows - 1 - column],
      [columns - 1 - column, rows - 1 - row],
      [columns - 1 - row, column],
    ][turns] ?? [column, row];
    return (r ?? 0) * columns + (c ?? 0);
  };
  const order = Array.from({ length: wide * high }, (_, index) => from(index % wide, Math.floor(index / wide)));
  return { columns: wide, order };
} // prettier-ignore

/** How a tool is wired to a board of this many volts: by what each end is, whatever is printed there. */
export function programmerWiring(tool: Programmer, { kind, pads }: WiredRoute, levelV: number): ProgrammerWiring {
  if (tool.for !== kind)
    return { wires: [], voltage: '', against: `${tool.name} is a ${tool.for}; this route wants a ${kind}` };
  const gives = tool.gives_v;
  const fits = gives?.some((volts) => Math.abs(volts - levelV) < 0.4);
  if (gives && !fits)
    return { wires: [], voltage: '', against: `${tool.name} works with ${gives.join(' or ')} V; this chip is one of ${levelV} V and would be destroyed` }; // prettier-ignore
  const least: readonly Wire[] = WIRES_OF[kind];
  const wanted: readonly Wire[] = pads.wires.includes('supply') && hasPin(tool, 'supply') ? [...least, 'supply'] : least; // prettier-ignore
  const missing = wanted.filter((wire) => !hasPin(tool, wire));
  if (missing.length > 0)
    return { wires: [], voltage: '', against: `${tool.name} has no pin for ${missing.join(', ')}` };
  return { wires: wanted.map((wire) => jumped(tool, pads, wire)), voltage: voltageWords(tool, wanted, levelV) };
} // prettier-ignore

const hasPin = ({ pins }: Programmer, wire: Wire): boolean => pins.some((pin) => pin.wire === wire);

function jumped({ pins }: Programmer, { wires, labels }: Pads, wire: Wire): Jumped {
  const pin = pins.findIndex((entry) => entry.wire === wire);
  const pad = wires.indexOf(wire);
  return { wire, pin, pinLabel: pins[pin]?.label ?? '', pad, padLabel: labels[pad] ?? '' };
}

function voltageWords({ name, gives_v: gives }: Programmer, wanted: readonly Wire[], levelV: number): string {
  if (gives && wanted.includes('supply'))
    return `${name} gives the board its ${levelV} V: pull supply and USB, and leave them out until the wires are off.`;
  if (wanted.includes('supply'))
    return `${name} gives no voltage; it only looks at the board's ${levelV} V. Wire first, then plug USB, never the supply.`;
  return `No voltage goes along with these wires: once they are on, plug USB so that the chip has its ${levelV} V.`;
}

/** What each wire does, for the person who connects it. */
export const WIRE_WORDS: Readonly<Record<Wire, string>> = {
  'to-chip': 'data to the chip',
  'from-chip': 'data from the chip',
  clock: 'clock',
  data: 'data, both ways',
  reset: 'reset',
  supply: 'voltage',
  ground: 'ground',
};
