import { writeYaml } from './writeYaml';
import { type Part, partSchema } from '../parts/part';
import { type Read, readYaml } from './readYaml';

/** Reads a part file. */
export const readPartFile = (text: string): Read<Part> => readYaml<Part>(text, partSchema());

/** Writes a part file; reading it back gives the same part. */
export const writePartFile = (part: Part): string => writeYaml(part, 110);
