import { oncePer } from '../tree/oncePer';
import type { Board, Header } from '../board/board';
import type { Part } from '../parts/part';

/** What a header made for a part says it is for: by the part's kind, or kind and role. */
const MADE_FOR: Record<string, readonly string[]> = {
  'switch.x': ['X switch'],
  'switch.y': ['Y switch'],
  'switch.z': ['Z switch'],
  'thermistor.hotend': ['hot-end sensor'],
  'thermistor.bed': ['bed sensor'],
  'thermistor.chamber': ['chamber sensor'],
  'heater.hotend': ['hot-end heater'],
  'heater.bed': ['bed heater'],
  'relay.hotend': ['hot-end heater'],
  'relay.bed': ['bed heater'],
  'fan.part': ['part fan'],
  'fan.hotend': ['hot-end fan'],
  'fan.board': ['board fan'],
  probe: ['bed probe'],
  'filament-sensor': ['filament sensor'],
  servo: ['servo', 'second servo'],
  display: ['display'],
  lamp: ['lamp'],
};
const NOTHING: readonly string[] = [];

/** The header made for the board's own supply; parts are not plugged there. */
export const MAIN_SUPPLY = 'main supply';
/** The header made for whatever comes. */
export const ADDITIONS = 'additions';

/** Where the supply comes onto a board. */
export const mainHeader = ({ board }: { board: Board }): Header | undefined =>
  board.headers.find((header) => header.for === MAIN_SUPPLY);

/** What a header made for this part would say it is for. */
export function purposesOf(kind: Part['kind'], role: string): readonly string[] {
  return MADE_FOR[`${kind}.${role}`] ?? MADE_FOR[kind] ?? NOTHING;
}

/** Everything that headers could be for and that some part asks for. Computed once a list of parts. */
export const purposesServed = oncePer(
  (parts: readonly { role: string; type: Part }[]): ReadonlySet<string> =>
    new Set(parts.flatMap(({ type, role }) => purposesOf(type.kind, role))),
);
