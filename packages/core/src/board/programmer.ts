import Joi from 'joi';
import { line } from '../text/plainText';
import { WIRES, type Wire } from './route';
import { once } from '../tree/once';
import { id } from '../text/id';

/** A tool that writes a chip by wires: a programmer, a debug probe, or a spare board that is made one first. */
export interface Programmer {
  jolly: 'programmer/1';
  id: string;
  name: string;
  for: 'programmer' | 'probe';
  /** The plug as one looks into it, from the left of its upper row on: what is printed, and what each is. */
  columns: number;
  pins: { label: string; wire?: Wire }[];
  /** Volts it can give to the board; missing where it gives none and only looks at the board's. */
  gives_v?: number[];
  /** What has to be done first, where it is a spare board. */
  first?: string;
}

export const programmerSchema = once(() =>
  Joi.object<Programmer>({
    jolly: Joi.valid('programmer/1').required(),
    id: id().required(),
    name: line(60).required(),
    for: Joi.valid('programmer', 'probe').required(),
    columns: Joi.number().integer().min(1).max(20).required(),
    pins: Joi.array()
      .items(Joi.object({ label: line(12).required(), wire: Joi.valid(...WIRES) }))
      .unique(
        (a: Programmer['pins'][number], b: Programmer['pins'][number]) =>
          a.wire !== undefined && a.wire === b.wire,
      ) // prettier-ignore
      .min(3)
      .max(40)
      .required(),
    gives_v: Joi.array().items(Joi.number().min(1).max(24)).min(1).max(4),
    first: line(300),
  }),
);
