import type { Board } from '@jolly/core/board/board';
import type { Chip } from '@jolly/core/board/chip';

export interface HeaderDraft {
  id: string;
  serves: string;
  family: string;
  contacts: string;
  max_a: number;
}
/** A board as the form holds it. */
export interface Draft {
  name: string;
  revision: string;
  chip: string;
  print: string;
  width: number;
  depth: number;
  drivers: Board['drivers'];
  sockets: number;
  headers: HeaderDraft[];
  cardName: string;
  extension: string;
}

export const EMPTY_HEADER: HeaderDraft = {
  id: '',
  serves: 'X switch',
  family: 'K3 latch',
  contacts: '5v, gnd, sig:p10',
  max_a: 0.5,
};

const idOf = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

/** A board file's content from the form; places that the form does not ask are laid out in rows. */
export function boardOf(draft: Draft, chip: Chip): Board {
  const id = idOf(draft.name);
  const [fixed, ending] = draft.cardName.trim().split('.');
  const pins = chip.pin_groups
    .filter((group) => group.can.includes('out'))
    .flatMap(({ pins: [from, to] }) => Array.from({ length: to - from + 1 }, (_, index) => from + index));
  const serial = chip.pin_groups.find((group) => group.can.includes('uart'))?.pins ?? [0, 1];
  return {
    jolly: 'board/1',
    id,
    name: draft.name,
    revision: draft.revision,
    chip: draft.chip,
    outline_mm: { x: draft.width, y: draft.depth },
    holes_mm: [],
    input_v: [12, 24],
    headers: draft.headers.map((header, index) => ({
      id: header.id,
      at_mm: { x: 8 + (index % 3) * (draft.width / 3), y: 8 + Math.floor(index / 3) * 8 },
      runs: 'right',
      family: header.family,
      pitch_mm: 2.54,
      contacts: header.contacts.split(',').map((contact) => contact.trim()),
      max_a: header.max_a,
      for: header.serves,
    })),
    sockets: Array.from({ length: draft.sockets }, (_, index) => ({
      id: `M${index + 1}`,
      at_mm: { x: 10 + index * 16, y: draft.depth / 2 },
      step: pins[index * 3] ?? 0,
      dir: pins[index * 3 + 1] ?? 0,
      enable: pins[index * 3 + 2] ?? 0,
    })),
    inputs: [],
    host_serial: { receive: serial[0], send: serial[0] + 1 },
    routes: [
      {
        kind: 'card',
        rule: {
          ...(fixed ? { kind: 'fixed' as const, name: fixed } : { kind: 'any' as const }),
          // A name typed with its ending brings the ending along.
          extension: ending ?? draft.extension,
          ignoresRepeat: !draft.cardName,
          renames: false,
        },
        max_card_gb: 32,
        target: `${id}-${idOf(draft.revision)}`,
        load_address: 8192,
        evidence: 'The board itself tells which image it runs.',
      },
    ],
    print: draft.print ? [draft.print] : [draft.name || '?'],
    print_at_mm: { x: draft.width / 2, y: draft.depth * 0.75 },
    chip_at_mm: { x: draft.width * 0.7, y: draft.depth * 0.65 },
    drivers: draft.drivers,
    tells: [],
  };
}
