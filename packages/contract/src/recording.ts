import type { HandAct } from '@jolly/core/bringup/handAct';
import { MOST_BENCH_INPUTS } from '@jolly/core/text/limits';
import { line } from '@jolly/core/text/plainText';
import { once } from '@jolly/core/tree/once';
import Joi from 'joi';
import { object, of, optional } from './shape';

const share = () => Joi.number().min(0).max(1).required();
const exactly = of<number>(() => Joi.number().min(0).max(1e15));
const whole = of<number>(() => Joi.number().integer().min(0).max(0xffffffff));

const mm = () => Joi.number().min(-1e5).max(1e9);

/** What hands can have done at once. */
const MOST_HANDS = 200;
/** A part, or one of its leads. */
const named = () => line(60).required();
const handAct = once(() =>
  Joi.alternatives().try(
    Joi.object({ hold: named(), on: Joi.boolean().required() }),
    Joi.object({ warm: named(), c: Joi.number().min(-50).max(600).allow(null).required() }),
    Joi.object({ cool: named(), share: Joi.number().min(0).max(1000).required() }),
    Joi.object({ pull: named(), out: Joi.boolean().required() }),
    Joi.object({ lay: named(), on: Joi.boolean().required() }),
  ),
);

/** The run that a proof rests on: all that was done since the power came on, and what the image said to it. */
export const recording = object({
  seed: whole,
  hostBaud: whole,
  store: of<string>(() => Joi.string().base64().max(100_000)),
  begins: optional(
    object({
      position: of<Record<'x' | 'y' | 'z' | 'e', number>>(() =>
        Joi.object({ x: mm(), y: mm(), z: mm(), e: mm() }).options({ presence: 'required' }),
      ),
      temperatureC: of<Record<string, number>>(() =>
        Joi.object()
          .pattern(/^[a-z0-9-]{1,20}$/, Joi.number().min(-100).max(2000))
          .max(10),
      ),
      offS: of<number>(() => Joi.number().min(0).max(1e9)),
    }),
  ),
  hands: of<HandAct[]>(() => Joi.array().max(MOST_HANDS).items(handAct())),
  inputs: of<RecordedInput[]>(() =>
    Joi.array()
      .max(MOST_BENCH_INPUTS)
      .items(
        Joi.object({ atNs: Joi.number().min(0).max(1e15).required(), line: line(200).required() }),
        Joi.object({ atNs: Joi.number().min(0).max(1e15).required(), hand: handAct().required() }),
        Joi.object({
          atNs: Joi.number().min(0).max(1e15).required(),
          knob: Joi.number().integer().min(-1000).max(1000).required(),
        }),
        Joi.object({
          atNs: Joi.number().min(0).max(1e15).required(),
          finger: Joi.object({ x: share(), y: share() }).allow(null).required(),
        }),
      ),
  ),
  untilNs: exactly,
  heard: whole,
  sum: whole,
});
type RecordedInput =
  | { atNs: number; line: string }
  | { atNs: number; hand: HandAct }
  | { atNs: number; knob: number }
  | { atNs: number; finger: { x: number; y: number } | null };
