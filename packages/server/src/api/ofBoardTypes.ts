import type { boardTypes as boardTypesContract } from '@jolly/contract/endpoints/boardTypes';
import { writeBoardFile } from '@jolly/core/formats/boardFile';
import { writeChipFile } from '@jolly/core/formats/chipFile';
import * as begunBoards from '../app/begunBoards';
import * as boardTypes from '../app/boardTypes';
import { addChip, theChip } from '../app/ownChips';
import { ownDialect } from '../app/taught';
import type { Context } from '../context';
import { describedBoards } from '../sql/begunBoards';
import type { Of, Sent } from './handler';

const yaml = (content: string, name: string): Sent => ({ type: 'text/yaml', bytes: content, saveAs: `${name}.yaml` }); // prettier-ignore

/** What is added to the catalogue here. */
export function ofBoardTypes(context: Context): Of<typeof boardTypesContract> {
  const taught = ownDialect(context);
  return {
    addBoard: ({ body }) => boardTypes.addBoardType(context, body.file),
    boardFile: ({ params: { id, revision } }) =>
      yaml(writeBoardFile(boardTypes.boardType(context, id, revision)), `${id}-${revision}`),
    ownTypes: () => begunBoards.ownTypes(context),
    begunBoards: () => describedBoards.list(context.db),
    beginBoard: ({ body }) => begunBoards.beginBoard(context, body),
    begunBoard: ({ params }) => begunBoards.theBegunBoard(context, params.id),
    saveBegunBoard: ({ params, body }) => begunBoards.saveBoard(context, params.id, body),
    dropBegunBoard: async ({ params }) => {
      await begunBoards.throwBoardAway(context, params.id);
      return {};
    },
    keepBoardPhoto: ({ params, body }) => begunBoards.keepBoardPhoto(context, params.id, body),
    boardPhoto: ({ params }) => begunBoards.boardPhoto(context, params.id),
    finishBoard: ({ params }) => begunBoards.finishBoard(context, params.id),
    teach: ({ body }) => taught.teach(body.line),
    forgetLine: ({ body }) => taught.forget(body.text),
    addChip: ({ body }) => addChip(context, body.file),
    chipFile: ({ params }) => yaml(writeChipFile(theChip(context, params.id)), params.id),
  };
}
