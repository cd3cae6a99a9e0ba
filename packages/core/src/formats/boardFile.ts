import { stringify } from 'yaml';
import { type Board, boardSchema } from '../board/board';
import { pinGroup } from '../board/chip';
import { parseNet } from '../board/net';
import type { Catalogue } from '../catalogue/catalogue';
import { type FileProblem, type Read, readYaml } from './readYaml';

/** Reads a board file and checks it against the chips of the catalogue. */
export function readBoardFile(text: string, catalogue: Catalogue): Read<Board> {
  const read = readYaml<Board>(text, boardSchema);
  if ('problems' in read) return read;
  const problems = boardProblems(read.value, catalogue);
  return problems.length > 0 ? { problems } : read;
}

/** Writes a board file; reading it back gives the same board. */
export function writeBoardFile(board: Board): string {
  return stringify(board, { lineWidth: 130 });
}

/** What a board says that does not hold together with its chip; `path` leads to it. */
export function boardProblems(board: Board, { chips }: Catalogue): FileProblem[] {
  const chip = chips.find((entry) => entry.id === board.chip);
  const at = (path: string, message: string): FileProblem => ({ line: 1, column: 1, path, message });
  if (!chip)
    return [
      at(
        'chip',
        `no chip "${board.chip}" in the catalogue; known: ${chips.map((entry) => entry.id).join(', ')}`,
      ),
    ];
  const unknown = (pin: number) => !pinGroup(chip, pin);
  return [
    ...board.headers.flatMap((header, h) =>
      header.contacts.flatMap((contact, c) => {
        const net = parseNet(contact);
        return 'pin' in net && unknown(net.pin)
          ? [at(`headers.${h}.contacts.${c}`, `${header.id}: ${chip.name} has no pin ${net.pin}`)]
          : [];
      }),
    ),
    ...board.sockets.flatMap((socket, s) =>
      (['step', 'dir', 'enable'] as const).flatMap((line) =>
        unknown(socket[line])
          ? [at(`sockets.${s}.${line}`, `${socket.id}: ${chip.name} has no pin ${socket[line]}`)]
          : [],
      ),
    ),
    ...board.inputs.flatMap((input, i) =>
      unknown(input.pin) ? [at(`inputs.${i}.pin`, `${chip.name} has no pin ${input.pin}`)] : [],
    ),
  ];
}
