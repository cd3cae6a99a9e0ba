import Joi from 'joi';
import { line } from '../text/plainText';
import { once } from '../tree/once';

/** Pins the board uses for something of its own; taking one costs that. */
export interface BoardUse {
  by: 'card' | 'driver select' | 'beeper' | 'boot strap';
  pins: number[];
  /** What no longer works, or what may happen, while something else sits on one of these pins. */
  lost: string;
}

export const boardUseSchema = once(() =>
  Joi.object<BoardUse>({
    by: Joi.valid('card', 'driver select', 'beeper', 'boot strap').required(),
    pins: Joi.array().items(Joi.number().integer().min(0).max(255)).min(1).unique().required(),
    lost: line(120).required(),
  }),
);
