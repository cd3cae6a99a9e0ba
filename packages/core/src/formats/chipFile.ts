import { writeYaml } from './writeYaml';
import { type Chip, chipSchema } from '../board/chip';
import { type Misfit, type Read, readYaml } from './readYaml';

/** Reads a chip file and checks it against itself. */
export function readChipFile(text: string): Read<Chip> {
  return readYaml<Chip>(text, chipSchema(), pinsTwice);
}

/** Writes a chip file; reading it back gives the same chip. */
export function writeChipFile(chip: Chip): string {
  return writeYaml(chip, 130);
}

/** Groups that end before they begin, or that share a pin. */
function pinsTwice({ pin_groups: groups }: Chip): Misfit[] {
  return groups.flatMap(({ pins: [from, to] }, index) => {
    const path = `pin_groups.${index}.pins`;
    if (to < from) return [{ path, message: `pins ${from} to ${to}: the last comes before the first` }];
    const other = groups.slice(0, index).find(({ pins }) => from <= pins[1] && pins[0] <= to);
    return other ? [{ path, message: `pins ${from} to ${to}: some of them are in the group ${other.pins[0]} to ${other.pins[1]} too` }] : []; // prettier-ignore
  });
}
