import { boardSchema } from '@jolly/core/board/board';
import { chipSchema } from '@jolly/core/board/chip';
import { programmerSchema } from '@jolly/core/board/programmer';
import { likeSchema } from '@jolly/core/formats/boardFile';
import { kitSchema } from '@jolly/core/kit/kit';
import { machineSchema } from '@jolly/core/machine/machine';
import { partSchema } from '@jolly/core/parts/part';
import { dialectSchema } from '@jolly/core/report/dialect';
import { jobSchema } from '@jolly/core/ripple/job';
import Joi from 'joi';
import type { FileFamily } from './fileFamilies';
import { type JsonSchema, jsonSchema } from './jsonSchema';

/** What guards each family of files: `jolly: machine/1`, `board/1`, … A board may say `like: REVISION` and give what differs. */
export const GUARDS = {
  machine: machineSchema,
  job: jobSchema,
  board: () => Joi.alternatives().try(boardSchema(), likeSchema()),
  chip: chipSchema,
  part: partSchema,
  programmer: programmerSchema,
  kit: kitSchema,
  dialect: dialectSchema,
} as const satisfies Record<FileFamily, () => Joi.Schema>;

/**
 * The JSON Schema of a family of files, for editors and for tools of others. It lets everything through that the product
 * reads; what the product refuses only by holding facts against each other, it cannot tell.
 */
export function fileSchema(family: FileFamily): JsonSchema {
  const schema = jsonSchema(GUARDS[family]());
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: `${family}/1`,
    ...(typeof schema === 'object' && schema),
  };
}
