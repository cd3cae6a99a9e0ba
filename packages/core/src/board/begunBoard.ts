import Joi from 'joi';
import { line } from '../text/plainText';
import type { BoardDraft } from './boardDraft';
import type { Corners, Point } from './photoFit';
import { once } from '../tree/once';

/** The photo that shines through while a board is drawn, and where the board lies on it. */
export interface BoardPhoto {
  /** Of its bytes, as they are kept. */
  hash: string;
  type: 'image/jpeg' | 'image/png';
  width: number;
  height: number;
  /** Corners of the board, in shares of the photo; until all four are pointed at, those that are. */
  corners: Point[];
  /** Two points of known distance, where the size of the board is not known. */
  distance?: { points: Point[]; mm?: number };
}

/** A board that is being described: what has been said of it so far. */
export interface BegunBoard {
  jolly: 'begun-board/1';
  board: BoardDraft;
  /** A revision of the same board that this one is written beside, by what differs. */
  like?: string;
  /** It is a board that is known by its id already; another name does not give it another one. */
  keepsId?: true;
  photo?: BoardPhoto;
}

const share = () => Joi.number().min(0).max(1).required();
const points = (most: number) => Joi.array().items(Joi.object({ x: share(), y: share() })).max(most).required(); // prettier-ignore
/** What a draft of a board may weigh as JSON, in letters: a board file's most. */
const LONGEST = 256 * 1024;

/** Guards a begun board: its board may be half said, so only its size and its headers' kind are looked at. */
export const begunBoardSchema = once(() => Joi.object<BegunBoard>({
  jolly: Joi.valid('begun-board/1').required(),
  board: Joi.object({ headers: Joi.array().items(Joi.object().unknown()).max(200).required() })
    .unknown()
    .custom((board: unknown, helpers) =>
      JSON.stringify(board).length > LONGEST ? helpers.error('any.invalid') : board,
    )
    .required(),
  like: line(12),
  keepsId: Joi.valid(true),
  photo: Joi.object({
    hash: Joi.string().pattern(/^[0-9a-f]{64}$/).required(),
    type: Joi.valid('image/jpeg', 'image/png').required(),
    width: Joi.number().integer().min(1).required(),
    height: Joi.number().integer().min(1).required(),
    corners: points(4),
    distance: Joi.object({ points: points(2), mm: Joi.number().greater(0).max(1000) }),
  }),
})); // prettier-ignore

/** The corners, once all four are pointed at. */
export function cornersOf({ corners }: Pick<BoardPhoto, 'corners'>): Corners | undefined {
  const [a, b, c, d] = corners;
  return a && b && c && d ? [a, b, c, d] : undefined;
}
