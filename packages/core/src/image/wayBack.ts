import { boardCalled, type Catalogue } from '../catalogue/catalogue';
import type { Finding } from '../finding/finding';

/** What can be kept of a machine before it is changed. */
export const KEPT_KINDS = ['image', 'bootloader', 'options', 'store', 'dump'] as const;
export type KeptKind = (typeof KEPT_KINDS)[number];

interface BoardName {
  id: string;
  name: string;
  revision: string;
}
export interface KeptThing {
  kind: KeptKind;
  verdict: 'fits' | 'doubtful' | 'empty';
  /** The board it was kept from. */
  board: { id: string; revision: string };
}

/** Why an image that is kept is no way back for a board; undefined when it is one. */
function noWayBack(
  { verdict, board }: KeptThing,
  wanted: BoardName,
  catalogue: Pick<Catalogue, 'boards'>,
): string | undefined {
  if (board.id !== wanted.id || board.revision !== wanted.revision)
    return `an image of ${boardCalled(catalogue, board)} is kept; that is another board`;
  if (verdict === 'empty') return 'what was read out is erased: it brings nothing back';
  if (verdict === 'doubtful') return 'the image that is kept may not be one of this board: it is doubtful';
  return undefined;
}

/**
 * `keep.no-way-back`: silent once an image of the board that is replaced is kept, not erased and plausible for its
 * chip, or once it was waived in words.
 */
export function wayBackFindings(
  wanted: BoardName,
  {
    kept,
    waived,
    catalogue,
  }: { kept: readonly KeptThing[]; waived?: string | undefined; catalogue: Pick<Catalogue, 'boards'> },
): Finding[] {
  const images = kept.filter((thing) => thing.kind === 'image');
  const against = images.map((image) => noWayBack(image, wanted, catalogue));
  if (waived !== undefined || against.includes(undefined)) return [];
  return [
    {
      id: 'keep.no-way-back',
      severity: 'stop',
      subject: { kind: 'machine', id: wanted.id },
      what: `There is no way back to what ${wanted.name} rev ${wanted.revision} runs.`,
      why: 'Once the board takes another image, or is put away, the one it has may be gone for good. Keep it first, or say in words why it is not needed.',
      evidence: against.length > 0 ? against.map(String) : [`no image of ${wanted.name} is kept`],
      remedies: [],
    },
  ];
}
