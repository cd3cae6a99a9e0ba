import Joi from 'joi';
import { line } from '../text/plainText';
import { once } from '../tree/once';
import { id } from '../text/id';

/** A fault that boards of this revision are known to have. */
export interface KnownFault {
  id: string;
  pins: number[];
  what: string;
  /** The sensors it hits: all of them, or those that only pull down electrically. */
  hits: 'any' | 'open-collector';
  sure: 'proven' | 'reported' | 'suspected';
  way_out: string;
}

export const knownFaultSchema = once(() =>
  Joi.object<KnownFault>({
    id: id().required(),
    pins: Joi.array().items(Joi.number().integer().min(0).max(255)).min(1).unique().required(),
    what: line(200).required(),
    hits: Joi.valid('any', 'open-collector').required(),
    sure: Joi.valid('proven', 'reported', 'suspected').required(),
    way_out: line(200).required(),
  }),
);
