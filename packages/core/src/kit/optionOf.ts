import { oncePer } from '../tree/oncePer';
import type { Kit, Option } from './kit';

const byKey = oncePer((options: readonly Option[]) => new Map(options.map((option) => [option.key, option])));

/** The option of a kit with this key; undefined where this version of it has none. */
export const optionOf = ({ options }: Pick<Kit, 'options'>, key: string): Option | undefined =>
  byKey(options).get(key);
